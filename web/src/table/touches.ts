import type { Point } from '@calque/core/geometry';
import { OFFERED_KINDS, type Touched } from '@calque/core/snapping';
import type { Found } from './snapping';

/** The cursor rests so long on something that it is touched, milliseconds; so many things are remembered. */
const TOUCH_MS = 450,
  MOST_TOUCHED = 3;
/** Places nearer than this on the screen, CSS pixels, are one; what lies within the other is touched along with it. */
const ONE_PLACE = 1,
  SAME_SPOT = 4;
/** So many lines through one place are remembered, the longest first. */
const MOST_LINES = 4;

/** What the cursor has touched since the last pick: the next picks can be in line with it. */
export class Touches {
  private touched: readonly Touched[] = [];
  private dwell: ReturnType<typeof setTimeout> | null = null;

  /** `found`: what the pick has found now, if that may be touched, and what else lies there; `scale`: CSS pixels to the millimetre. */
  constructor(
    private readonly now: () => { found: Found | undefined; others: readonly Found[]; scale: number },
    private readonly onChange: () => void,
  ) {}

  get list(): readonly Touched[] {
    return this.touched;
  }

  /** The cursor has moved: where it rests on something from now on, that is touched. */
  wait(): void {
    if (this.dwell) clearTimeout(this.dwell);
    this.dwell = this.now().found ? setTimeout(() => this.touch(), TOUCH_MS) : null;
  }

  /** Remembers what the pick has found; what guides and the grid offer is nothing to be in line with. */
  touch(): void {
    const { found, others: beside, scale } = this.now();
    if (!found || OFFERED_KINDS.has(found.kind)) return;
    const apart = (p: Point) => Math.hypot(p[0] - found.plane[0], p[1] - found.plane[1]) * scale;
    // A hatch may end on the face that is meant: the lines of all that lies in the place count.
    const here = [found, ...beside.filter((f) => !OFFERED_KINDS.has(f.kind) && apart(f.plane) <= SAME_SPOT)];
    this.touched = [
      ...this.touched.filter((t) => apart(t.at) > ONE_PLACE),
      { at: found.plane, lines: linesOf(here) },
    ].slice(-MOST_TOUCHED);
    this.onChange();
  }

  clear(): void {
    if (this.dwell) clearTimeout(this.dwell);
    this.dwell = null;
    this.touched = [];
  }
}

/** The straight lines that light up with what was found, each direction once, the longest first. */
function linesOf(found: readonly Found[]): [Point, Point][] {
  const straight = found
    .flatMap((f) => f.lit)
    .filter((l) => l.length === 2)
    .map((l) => ({ line: [l[0], l[1]] as [Point, Point], x: l[1][0] - l[0][0], y: l[1][1] - l[0][1] }))
    .map((s) => ({ ...s, length: Math.hypot(s.x, s.y) }))
    .filter((s) => s.length > 0)
    .sort((a, b) => b.length - a.length);
  const kept: typeof straight = [];
  for (const s of straight)
    if (!kept.some((k) => Math.abs(k.x * s.y - k.y * s.x) <= SAME_WAY * k.length * s.length)) kept.push(s);
  return kept.slice(0, MOST_LINES).map((s) => s.line);
}
/** Lines that differ by less than this (sine) run the same way. */
const SAME_WAY = 1e-4;
