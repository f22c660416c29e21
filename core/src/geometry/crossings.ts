import { arcHasAngle, type Arc } from './arcs.ts';
import { flattenPiece, pieceBox, type Piece } from './pieces.ts';
import { boxesTouch, grownBox } from './polygons.ts';
import type { Box, Point } from './spaces.ts';

export type Line4 = readonly [number, number, number, number];

/** Lines of which this is the sine of the angle, or less, run the same way. */
const PARALLEL_SINE = 1e-9;
/** Ends that miss by this share of a line's length touch it still. */
const TOUCH_SHARE = 1e-9;
/** Chords that stray this much, in shares of its size, stand for a curve that is crossed. */
const CURVE_SHARE = 1e-6;

/** Where the lines through two stretches cross, with the places along each; null where they run the same way. */
export function crossLines(
  a: Line4,
  b: Line4,
): { x: number; y: number; t: number; u: number; sine: number } | null {
  const dx = a[2] - a[0],
    dy = a[3] - a[1],
    ex = b[2] - b[0],
    ey = b[3] - b[1];
  const cross = dx * ey - dy * ex,
    size = Math.sqrt((dx * dx + dy * dy) * (ex * ex + ey * ey));
  if (Math.abs(cross) <= PARALLEL_SINE * size) return null;
  const t = ((b[0] - a[0]) * ey - (b[1] - a[1]) * ex) / cross;
  const u = ((b[0] - a[0]) * dy - (b[1] - a[1]) * dx) / cross;
  return { x: a[0] + t * dx, y: a[1] + t * dy, t, u, sine: Math.abs(cross) / size };
}

/** Places along the line through a stretch, in its own lengths, at which it meets the circle; two that are alike where it touches. */
export function lineOnCircle(line: Line4, c: { cx: number; cy: number; r: number }): number[] {
  const [x0, y0, x1, y1] = line;
  const dx = x1 - x0,
    dy = y1 - y0,
    fx = x0 - c.cx,
    fy = y0 - c.cy;
  const a = dx * dx + dy * dy,
    b = 2 * (fx * dx + fy * dy),
    k = fx * fx + fy * fy - c.r * c.r;
  const disc = b * b - 4 * a * k;
  // A tangent that rounding has lifted off by a hair touches still.
  if (a === 0 || disc < -1e-12 * Math.max(b * b, a * c.r * c.r)) return [];
  const root = Math.sqrt(Math.max(0, disc));
  return [(-b - root) / (2 * a), (-b + root) / (2 * a)];
}

/** Where a stretch meets an arc. */
export function crossSegmentArc(line: Line4, arc: Arc): [number, number][] {
  const [x0, y0, x1, y1] = line;
  return lineOnCircle(line, arc)
    .filter((t) => t >= -TOUCH_SHARE && t <= 1 + TOUCH_SHARE)
    .map((t): [number, number] => [x0 + t * (x1 - x0), y0 + t * (y1 - y0)])
    .filter(([x, y]) => arcHasAngle(arc.start, arc.end, Math.atan2(y - arc.cy, x - arc.cx)));
}

/** Where two circles meet; none where one lies within or beyond the other, or they are one. */
export function crossCircles(
  a: { cx: number; cy: number; r: number },
  b: { cx: number; cy: number; r: number },
): [number, number][] {
  const dx = b.cx - a.cx,
    dy = b.cy - a.cy,
    d = Math.hypot(dx, dy);
  if (d === 0) return [];
  const along = (d * d + a.r * a.r - b.r * b.r) / (2 * d),
    square = a.r * a.r - along * along;
  if (square < -1e-12 * a.r * a.r) return [];
  const across = Math.sqrt(Math.max(0, square));
  const mx = a.cx + (along * dx) / d,
    my = a.cy + (along * dy) / d;
  return [1, -1].map((s) => [mx - (s * across * dy) / d, my + (s * across * dx) / d]);
}

/** Points in which two pieces meet. Curves are crossed by their chords, good to a millionth of their size. */
export function crossPieces(a: Piece, b: Piece): [number, number][] {
  if (!boxesTouch(grown(pieceBox(a)), pieceBox(b))) return [];
  if (a.kind === 'cubic' || b.kind === 'cubic') {
    const lines = chordsOf(a),
      others = chordsOf(b);
    return lines.flatMap((l) => others.flatMap((o) => crossPieces(l, o)));
  }
  if (a.kind === 'arc' && b.kind === 'arc') {
    return crossCircles(a.arc, b.arc).filter(([x, y]) =>
      [a.arc, b.arc].every((arc) => arcHasAngle(arc.start, arc.end, Math.atan2(y - arc.cy, x - arc.cx))),
    );
  }
  if (a.kind === 'segment' && b.kind === 'segment') {
    const met = crossLines(
      [...a.from, ...a.to] as unknown as Line4,
      [...b.from, ...b.to] as unknown as Line4,
    );
    const within = (t: number) => t >= -TOUCH_SHARE && t <= 1 + TOUCH_SHARE;
    return met && within(met.t) && within(met.u) ? [[met.x, met.y]] : [];
  }
  const line = (a.kind === 'segment' ? a : b) as Extract<Piece, { kind: 'segment' }>,
    round = (a.kind === 'arc' ? a : b) as Extract<Piece, { kind: 'arc' }>;
  return crossSegmentArc([...line.from, ...line.to] as unknown as Line4, round.arc);
}

/** A box with the slack that a touch may need. */
const grown = (box: Box): Box => grownBox(box, TOUCH_SHARE * Math.max(box[2] - box[0], box[3] - box[1]));

function chordsOf(piece: Piece): Piece[] {
  if (piece.kind !== 'cubic') return [piece];
  const [x0, y0, x1, y1] = pieceBox(piece);
  const points = flattenPiece(piece, CURVE_SHARE * Math.max(x1 - x0, y1 - y0));
  return points.slice(1).map((to, i): Piece => ({ kind: 'segment', from: points[i] as Point, to }));
}
