import { MM_PER_POINT, type SheetPoint } from '../../geometry/index.ts';
import { STRIDE, type Linework, type PageText } from '../../linework/index.ts';
import type { Figure } from '../../units/index.ts';
import type { Agreement } from './consensus.ts';
import type { Stretch, StretchFinder } from './line-pairs.ts';
import { saysIn, scaleOf } from './views.ts';

/** A circle or a part of one; `sweep` counter-clockwise from `start`, radians. */
interface Round {
  x: number;
  y: number;
  r: number;
  start: number;
  sweep: number;
}

/** The tip of a leader lies on its curve within this, sheet points; one that leads through a centre passes it as near. */
const ON_CURVE = 0.7,
  THROUGH = 0.6;
/** How likely a curve is that a leader's tip lies on. */
const SCORE = 0.9;
/** Arcs of one centre and radius. */
const SAME_ROUND = 0.4;
/** A figure stands this near to its arc, in heights; and lies within its sweep, or so far beyond, radians. */
const BESIDE = 2.6,
  BEYOND = 0.2;
const SMALLEST = 0.6,
  MOST_ROUNDS = 20000;
const TURN = 2 * Math.PI;

/** Circles and arcs of a page, and what figures beside them measure. */
export class Rounds {
  private readonly all: Round[] = [];

  constructor(
    l: Linework,
    private readonly finder: StretchFinder,
  ) {
    for (let k = 0; k < l.circles.length && this.all.length < MOST_ROUNDS; k += STRIDE.circles)
      this.all.push({ x: l.circles[k], y: l.circles[k + 1], r: l.circles[k + 2], start: 0, sweep: TURN });
    for (let k = 0; k < l.arcs.length && this.all.length < MOST_ROUNDS; k += STRIDE.arcs) {
      const [x, y, r, start, end] = l.arcs.subarray(k, k + 5),
        sweep = (((end - start) % TURN) + TURN) % TURN || TURN;
      const half = this.all.find((o) => o.sweep < TURN && same(o, { x, y, r }) && joins(o, start, sweep));
      if (half) Object.assign(half, merged(half, { x, y, r, start, sweep }));
      else this.all.push({ x, y, r, start, sweep });
    }
  }

  /** The radii or diameters that a figure with a leader may measure: from the centre, or across, to the leader's tip. */
  stretchesOf(text: PageText, kind: 'radius' | 'diameter'): Stretch[] {
    const found: Stretch[] = [];
    for (const piece of this.finder.leaders(text)) {
      for (const o of this.all) {
        const [x, y] = crossingThrough(piece, o) ?? piece.to;
        const away = Math.hypot(x - o.x, y - o.y);
        if (
          o.r < SMALLEST ||
          Math.abs(away - o.r) > ON_CURVE ||
          (o.sweep < TURN && beyond(o, Math.atan2(y - o.y, x - o.x)) > 2 / o.r)
        )
          continue;
        const k = o.r / away,
          to: SheetPoint = [o.x + (x - o.x) * k, o.y + (y - o.y) * k],
          from: SheetPoint = kind === 'radius' ? [o.x, o.y] : [o.x - (x - o.x) * k, o.y - (y - o.y) * k];
        found.push({
          from,
          to,
          points: kind === 'radius' ? o.r : 2 * o.r,
          score: SCORE * (1 - Math.abs(away - o.r) / (4 * ON_CURVE)),
          sure: true,
          marked: true,
        });
      }
    }
    return found.sort((a, b) => b.score - a.score).slice(0, 4);
  }

  /** The arc that an angle stands beside, if it is as wide as the figure says. */
  angleOf(text: PageText, degrees: number): { from: SheetPoint; to: SheetPoint; measured: number } | null {
    let best: { arc: Round; off: number } | null = null;
    const own = this.beside(text);
    // The figure may stand in a gap of its arc.
    const across = own.flatMap((a) =>
      own.flatMap((b) =>
        a !== b && same(a, b) && follows(a, b) < (text.width + 4 * text.height) / a.r
          ? [{ ...a, sweep: follows(a, b) + a.sweep + b.sweep }]
          : [],
      ),
    );
    for (const arc of [...own, ...across]) {
      const off = Math.abs((arc.sweep * 180) / Math.PI - degrees);
      if (off <= 0.51 && (!best || off < best.off)) best = { arc, off };
    }
    return (
      best && {
        from: pointOn(best.arc, 0),
        to: pointOn(best.arc, 1),
        measured: (best.arc.sweep * 180) / Math.PI,
      }
    );
  }

  /** The arc whose length, or that of what it is drawn about, the figure says. */
  arcOf(
    text: PageText,
    figure: Figure,
    agreement: Agreement,
  ): { from: SheetPoint; to: SheetPoint; measured: number } | null {
    const says = saysIn(figure, agreement),
      perPoint = MM_PER_POINT * scaleOf(agreement);
    const lengths = this.beside(text).flatMap((arc) =>
      this.all
        .filter((o) => Math.hypot(o.x - arc.x, o.y - arc.y) < SAME_ROUND)
        .map((o) => ({ arc, measured: o.r * arc.sweep * perPoint })),
    );
    const best = lengths.sort((a, b) => Math.abs(a.measured - says) - Math.abs(b.measured - says))[0];
    return best && Math.abs(best.measured - says) <= Math.max(1.5, 0.004 * says)
      ? { from: pointOn(best.arc, 0), to: pointOn(best.arc, 1), measured: best.measured }
      : null;
  }

  private beside(text: PageText): Round[] {
    const h = text.height,
      mx = text.x + (Math.cos(text.radians) * text.width) / 2 - Math.sin(text.radians) * 0.35 * h,
      my = text.y + (Math.sin(text.radians) * text.width) / 2 + Math.cos(text.radians) * 0.35 * h;
    return this.all.filter(
      (o) =>
        o.sweep < TURN &&
        Math.abs(Math.hypot(mx - o.x, my - o.y) - o.r) <= BESIDE * h + text.width / 2 &&
        beyond(o, Math.atan2(my - o.y, mx - o.x)) < BEYOND + (BESIDE * h) / o.r,
    );
  }
}

/** Where a leader that runs through the centre crosses the curve. */
function crossingThrough(
  { from, to }: { from: SheetPoint; to: SheetPoint },
  { x, y, r }: Round,
): SheetPoint | null {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    ux = (to[0] - from[0]) / length,
    uy = (to[1] - from[1]) / length;
  const t = (x - from[0]) * ux + (y - from[1]) * uy,
    off = Math.abs(-(x - from[0]) * uy + (y - from[1]) * ux);
  if (off > THROUGH || t < 0 || t > length + THROUGH) return null;
  return t - r >= -ON_CURVE
    ? [x - r * ux, y - r * uy]
    : t + r <= length + ON_CURVE
      ? [x + r * ux, y + r * uy]
      : null;
}

const same = (a: Pick<Round, 'x' | 'y' | 'r'>, b: Pick<Round, 'x' | 'y' | 'r'>) =>
  Math.abs(a.x - b.x) < SAME_ROUND && Math.abs(a.y - b.y) < SAME_ROUND && Math.abs(a.r - b.r) < SAME_ROUND;
/** How far an angle lies outside an arc, radians. */
function beyond({ start, sweep }: Round, angle: number): number {
  const t = (((angle - start) % TURN) + TURN) % TURN;
  return t <= sweep ? 0 : Math.min(t - sweep, TURN - t);
}
/** The gap from where an arc ends to where another begins, radians. */
const follows = (a: Round, b: Round): number => (((b.start - a.start - a.sweep) % TURN) + TURN) % TURN;
const pointOn = ({ x, y, r, start, sweep }: Round, t: number): SheetPoint => [
  x + r * Math.cos(start + t * sweep),
  y + r * Math.sin(start + t * sweep),
];
/** Does an arc go on where another ends? */
const joins = (o: Round, start: number, sweep: number) => {
  const gap = (a: number) => Math.abs((((a % TURN) + TURN + Math.PI) % TURN) - Math.PI);
  return Math.min(gap(start - o.start - o.sweep), gap(o.start - start - sweep)) < 0.02;
};
function merged(a: Round, b: Round): Partial<Round> {
  const follows =
      Math.abs(((((b.start - a.start - a.sweep) % TURN) + TURN + Math.PI) % TURN) - Math.PI) < 0.02,
    sweep = Math.min(TURN, a.sweep + b.sweep);
  return { start: follows ? a.start : b.start, sweep: TURN - sweep < 0.02 ? TURN : sweep };
}
