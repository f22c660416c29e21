import { pieceAt, type Piece, type Point } from '../../geometry/index.ts';
import type { SolidView } from './view.ts';

/** A printed figure where it stands on a plane; millimetres of the plane. */
export interface StandingFigure {
  kind: 'length' | 'diameter' | 'radius';
  /** What it says, millimetres. */
  printed: number;
  tolerance: { plus: number; minus: number } | null;
  /** What rounding to its decimals may have taken, millimetres. */
  half: number;
  /** The ends of what it measures. */
  from: Point;
  to: Point;
  /** So far the drawing may be off there. */
  slack: number;
}

/** What a solid measures where a figure points, and whether that is what it says. */
export interface Measured {
  /** null: the solid has nothing there. */
  model: number | null;
  agrees: boolean;
}

/** A figure with no decimals, or with one in inches, is meant better than it is rounded: so well, millimetres. */
const MEANT = 0.05,
  FINEST_ROUNDING = 0.13;
const ROUNDING = 1e-6;

const distance = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** Is a measure what a figure says: within its own tolerance, else as well as it is written. */
export function isAsPrinted(
  model: number,
  { printed, tolerance, half }: Pick<StandingFigure, 'printed' | 'tolerance' | 'half'>,
): boolean {
  const off = model - printed;
  if (tolerance) return off <= tolerance.plus + ROUNDING && off >= -tolerance.minus - ROUNDING;
  return Math.abs(off) <= (half > 0 && half <= FINEST_ROUNDING ? half : MEANT) + ROUNDING;
}

/** Measures a solid, as it is seen on a plane, between the places at which a figure's ends stand. */
export function measuredOn(view: SolidView, figure: StandingFigure): Measured {
  const pieces = [...view.visible, ...view.hidden],
    model = figure.kind === 'length' ? null : roundThere(pieces, figure),
    found = model ?? (figure.kind === 'radius' ? null : lengthThere(pieces, figure));
  return { model: found, agrees: found !== null && isAsPrinted(found, figure) };
}

/** The round about which a diameter or a radius is drawn. */
function roundThere(
  pieces: readonly Piece[],
  { kind, printed, from, to, slack }: StandingFigure,
): number | null {
  const middle: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2],
    drawn = kind === 'diameter' ? distance(from, to) / 2 : distance(from, to),
    times = kind === 'diameter' ? 2 : 1;
  const radii = pieces.flatMap((p) => {
    if (p.kind !== 'arc') return [];
    const { cx, cy, r } = p.arc,
      near = (q: Point) => Math.hypot(q[0] - cx, q[1] - cy) <= slack,
      onRim = (q: Point) => Math.abs(Math.hypot(q[0] - cx, q[1] - cy) - r) <= slack;
    const meant =
      kind === 'diameter'
        ? near(middle)
        : ((near(from) && onRim(to)) || (near(to) && onRim(from))) && Math.abs(r - drawn) <= 2 * slack;
    return meant ? [r] : [];
  });
  return radii.length === 0 ? null : times * nearestTo(radii, printed / times);
}

const nearestTo = (values: readonly number[], wanted: number): number =>
  values.reduce((a, b) => (Math.abs(b - wanted) < Math.abs(a - wanted) ? b : a));

/** The distance, along a figure's own line, of what the solid has at its two ends; of several the one that fits what it says best. */
function lengthThere(pieces: readonly Piece[], { printed, from, to, slack }: StandingFigure): number | null {
  const n = distance(from, to);
  if (!(n > 0)) return null;
  const way: Point = [(to[0] - from[0]) / n, (to[1] - from[1]) / n],
    along = ([x, y]: Point) => x * way[0] + y * way[1],
    places = [...new Set(pieces.flatMap((p) => placesOf(p, way).map(along)))],
    at = (end: Point) => places.filter((s) => Math.abs(s - along(end)) <= slack),
    [begins, ends] = [at(from), at(to)];
  const lengths = begins.flatMap((a) => ends.map((b) => b - a));
  if (lengths.length > 0) return nearestTo(lengths, printed);
  // One end alone: what the figure has driven elsewhere stands where it says, not where it is drawn.
  const driven = [
    ...begins.map((a) => ({ from: a, sign: 1 })),
    ...ends.map((b) => ({ from: b, sign: -1 })),
  ].flatMap(({ from: s, sign }) => {
    const found = places.filter((q) => Math.abs((q - s) * sign - printed) <= MEANT);
    return found.map((q) => (q - s) * sign);
  });
  return driven.length === 0 ? null : nearestTo(driven, printed);
}

/** What of a piece a figure along a way may be drawn to: its ends, the centre of a round and where that reaches farthest. */
function placesOf(piece: Piece, way: Point): Point[] {
  const ends: Point[] = [pieceAt(piece, 0), pieceAt(piece, 1)];
  if (piece.kind !== 'arc') return ends;
  const { cx, cy, r, start, end } = piece.arc,
    turn = 2 * Math.PI,
    angle = Math.atan2(way[1], way[0]),
    far = [angle, angle + Math.PI].filter(
      (a) => (((a - start) % turn) + turn) % turn <= end - start + ROUNDING,
    );
  return [...ends, [cx, cy], ...far.map((a): Point => [cx + r * Math.cos(a), cy + r * Math.sin(a)])];
}
