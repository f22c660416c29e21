import { OFFERED_KINDS, type Touched } from '@calque/core/snapping';
import type { Found } from './snapping';

/** The cursor rests so long on something that it is touched, milliseconds; so many things are remembered. */
const TOUCH_MS = 450, MOST_TOUCHED = 3;
/** Places nearer than this on the screen, CSS pixels, are one. */
const ONE_PLACE = 1;

/** What the cursor has touched since the last pick: the next picks can be in line with it. */
export class Touches {
  private touched: readonly Touched[] = [];
  private dwell: ReturnType<typeof setTimeout> | null = null;

  /** `found`: what the pick has found now, if that may be touched; `scale`: CSS pixels to the millimetre. */
  constructor(private readonly now: () => { found: Found | undefined; scale: number }, private readonly onChange: () => void) {}

  get list(): readonly Touched[] { return this.touched; }

  /** The cursor has moved: where it rests on something from now on, that is touched. */
  wait(): void {
    if (this.dwell) clearTimeout(this.dwell);
    this.dwell = this.now().found ? setTimeout(() => this.touch(), TOUCH_MS) : null;
  }

  /** Remembers what the pick has found; what guides and the grid offer is nothing to be in line with. */
  touch(): void {
    const { found, scale } = this.now();
    if (!found || OFFERED_KINDS.has(found.kind)) return;
    const [line] = found.lit, straight = found.lit.length === 1 && line.length === 2 && (line[0][0] !== line[1][0] || line[0][1] !== line[1][1]);
    const others = this.touched.filter((t) => Math.hypot(t.at[0] - found.plane[0], t.at[1] - found.plane[1]) * scale > ONE_PLACE);
    this.touched = [...others, { at: found.plane, line: straight ? [line[0], line[1]] as const : null }].slice(-MOST_TOUCHED);
    this.onChange();
  }

  clear(): void {
    if (this.dwell) clearTimeout(this.dwell);
    this.dwell = null;
    this.touched = [];
  }
}
