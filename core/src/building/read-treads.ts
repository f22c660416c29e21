import type { Piece, Point } from '../geometry/index.ts';

/** Goings of stairs, millimetres. */
const LEAST_GOING = 150,
  MOST_GOING = 450;
/** Widths of flights, millimetres. */
const NARROWEST = 500,
  WIDEST = 4000;
/** A riser is drawn within this of square to the way up (sine of what is left). */
const SQUARE = 0.05;
/** Risers lie within this share of the going where they ought to. */
const EVEN = 0.12;
/** Lines nearer to one another than this, millimetres, are one riser: nosings are drawn double. */
const ONE_RISER = 60;
/** So many risers in a row may be hidden, by a break line or an arrow. */
const HIDDEN = 1;

/** A flight as a plan draws it. */
export interface Treads {
  /** Middles of its first and its last riser. */
  from: Point;
  to: Point;
  /** Both ends counted. */
  risers: number;
  width: number;
}

/**
 * The flight that a plan draws along the way from one point to another: lines square to it, evenly spaced. Null where none is, or its
 * lines are not even. `pieces`: what is drawn near by, plane millimetres.
 */
export function treadsAlong(from: Point, to: Point, pieces: readonly Piece[]): Treads | null {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length < LEAST_GOING) return null;
  const [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  const local = ([x, y]: Point): Point => [
    (x - from[0]) * ux + (y - from[1]) * uy,
    -(x - from[0]) * uy + (y - from[1]) * ux,
  ];
  const lines = pieces
    .flatMap((piece) => {
      if (piece.kind !== 'segment') return [];
      const [p, q] = [local(piece.from), local(piece.to)],
        [low, high] = [Math.min(p[1], q[1]), Math.max(p[1], q[1])],
        wide = high - low;
      const isRiser =
        wide >= NARROWEST && wide <= WIDEST && Math.abs(q[0] - p[0]) <= SQUARE * wide && low < 0 && high > 0;
      return isRiser ? [{ at: (p[0] + q[0]) / 2, low, high }] : [];
    })
    .filter((l) => l.at > -MOST_GOING && l.at < length + MOST_GOING)
    .sort((a, b) => a.at - b.at);
  const single = lines.filter((l, i) => i === 0 || l.at - lines[i - 1].at > ONE_RISER);
  if (single.length < 3) return null;
  const going = median(single.slice(1).map((l, i) => l.at - single[i].at));
  if (going < LEAST_GOING || going > MOST_GOING) return null;
  const nearest = (t: number) => single.reduce((a, b) => (Math.abs(b.at - t) < Math.abs(a.at - t) ? b : a)),
    first = nearest(0),
    last = nearest(length),
    steps = Math.round((last.at - first.at) / going);
  if (steps < 2) return null;
  const exact = (last.at - first.at) / steps;
  let hidden = 0;
  for (let i = 1; i < steps; i++) {
    const t = first.at + i * exact;
    hidden = Math.abs(nearest(t).at - t) <= EVEN * exact ? 0 : hidden + 1;
    if (hidden > HIDDEN) return null;
  }
  const low = median(single.map((l) => l.low)),
    high = median(single.map((l) => l.high)),
    middle = (low + high) / 2,
    place = (t: number): Point => [from[0] + ux * t - uy * middle, from[1] + uy * t + ux * middle];
  return { from: place(first.at), to: place(last.at), risers: steps + 1, width: high - low };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b),
    half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}
