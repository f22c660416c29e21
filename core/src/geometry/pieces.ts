import { arcHasAngle, normalAngle, pointOnArc, TAU, type Arc } from './arcs.ts';
import { cubicAt, cubicBox, cubicLength, cubicPart, flattenCubic, type Cubic } from './bezier.ts';
import { footOnArc, footOnSegment, placeOnCubic } from './near.ts';
import type { Box, Point } from './spaces.ts';
import { applyTransform, determinant, meanScale, type Transform } from './transform.ts';

/**
 * A piece of drawn geometry, with a direction: a straight one, an arc (counter-clockwise unless it says otherwise; a whole
 * circle where it sweeps a full turn), or a cubic Bézier. A place on it is told by 0 at its beginning and 1 at its end.
 */
export type Piece =
  | { kind: 'segment'; from: Point; to: Point }
  | { kind: 'arc'; arc: Arc; clockwise: boolean }
  | { kind: 'cubic'; cubic: Cubic };

export const segmentPiece = (from: Point, to: Point): Piece => ({ kind: 'segment', from, to });
export const arcPiece = (arc: Arc, clockwise = false): Piece => ({ kind: 'arc', arc, clockwise });
export const cubicPiece = (cubic: Cubic): Piece => ({ kind: 'cubic', cubic });

/** A sweep that misses the full turn by no more than this is a circle. */
const FULL_TURN_SLACK = 1e-9;
export const isFullTurn = (arc: Arc): boolean => arc.end - arc.start >= TAU - FULL_TURN_SLACK;

const angleAt = ({ arc, clockwise }: Extract<Piece, { kind: 'arc' }>, t: number): number =>
  clockwise ? arc.end - t * (arc.end - arc.start) : arc.start + t * (arc.end - arc.start);

/** The point at a place; ends exactly as they are stored. */
export function pieceAt(piece: Piece, t: number): [number, number] {
  if (piece.kind === 'cubic') return cubicAt(piece.cubic, t);
  if (piece.kind === 'arc') return pointOnArc(piece.arc, angleAt(piece, t));
  const { from, to } = piece;
  if (t === 0) return [from[0], from[1]];
  return t === 1 ? [to[0], to[1]] : [from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])];
}

export const pieceStart = (piece: Piece): [number, number] => pieceAt(piece, 0);
export const pieceEnd = (piece: Piece): [number, number] => pieceAt(piece, 1);

/** Direction in which the piece runs at a place, not of unit length; never zero for a piece that has a length. */
export function pieceDirection(piece: Piece, t: number): [number, number] {
  if (piece.kind === 'segment') return [piece.to[0] - piece.from[0], piece.to[1] - piece.from[1]];
  if (piece.kind === 'arc') {
    const a = angleAt(piece, t),
      sign = piece.clockwise ? -1 : 1;
    return [-sign * Math.sin(a), sign * Math.cos(a)];
  }
  const [p, q] = [cubicAt(piece.cubic, Math.max(0, t - 1e-4)), cubicAt(piece.cubic, Math.min(1, t + 1e-4))];
  return [q[0] - p[0], q[1] - p[1]];
}

export function pieceLength(piece: Piece): number {
  if (piece.kind === 'segment') return Math.hypot(piece.to[0] - piece.from[0], piece.to[1] - piece.from[1]);
  return piece.kind === 'arc' ? piece.arc.r * (piece.arc.end - piece.arc.start) : cubicLength(piece.cubic);
}

/** A box that holds the piece; exact for lines and arcs. */
export function pieceBox(piece: Piece): Box {
  if (piece.kind === 'cubic') return cubicBox(piece.cubic);
  if (piece.kind === 'segment') {
    const {
      from: [x0, y0],
      to: [x1, y1],
    } = piece;
    return [Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)];
  }
  const { arc } = piece;
  const [p, q] = [pointOnArc(arc, arc.start), pointOnArc(arc, arc.end)];
  const reaches = (quarter: number) => arcHasAngle(arc.start, arc.end, (quarter * Math.PI) / 2);
  return [
    reaches(2) ? arc.cx - arc.r : Math.min(p[0], q[0]),
    reaches(3) ? arc.cy - arc.r : Math.min(p[1], q[1]),
    reaches(0) ? arc.cx + arc.r : Math.max(p[0], q[0]),
    reaches(1) ? arc.cy + arc.r : Math.max(p[1], q[1]),
  ];
}

/** Place of the piece that is nearest to a point. */
export function placeOnPiece(piece: Piece, [x, y]: Point): number {
  if (piece.kind === 'cubic') return placeOnCubic(piece.cubic, x, y);
  if (piece.kind === 'segment') {
    const { from, to } = piece;
    const dx = to[0] - from[0],
      dy = to[1] - from[1],
      square = dx * dx + dy * dy;
    return square === 0 ? 0 : Math.max(0, Math.min(1, ((x - from[0]) * dx + (y - from[1]) * dy) / square));
  }
  const { arc, clockwise } = piece,
    sweep = arc.end - arc.start;
  const angle = normalAngle(Math.atan2(y - arc.cy, x - arc.cx) - arc.start);
  // Beyond its ends the nearer one counts.
  const along = angle <= sweep ? angle / sweep : angle - sweep < TAU - angle ? 1 : 0;
  return clockwise ? 1 - along : along;
}

export function nearestOnPiece(piece: Piece, [x, y]: Point): [number, number] {
  if (piece.kind === 'segment')
    return footOnSegment(x, y, piece.from[0], piece.from[1], piece.to[0], piece.to[1]);
  return piece.kind === 'arc' ? footOnArc(piece.arc, x, y) : pieceAt(piece, placeOnPiece(piece, [x, y]));
}

export function distanceToPiece(piece: Piece, p: Point): number {
  const q = nearestOnPiece(piece, p);
  return Math.hypot(q[0] - p[0], q[1] - p[1]);
}

/** The part of a piece between two places, `from` before `to`. */
export function piecePart(piece: Piece, from: number, to: number): Piece {
  if (from === 0 && to === 1) return piece;
  if (piece.kind === 'segment') return segmentPiece(pieceAt(piece, from), pieceAt(piece, to));
  if (piece.kind === 'cubic') return cubicPiece(cubicPart(piece.cubic, from, to));
  const [a, b] = [angleAt(piece, from), angleAt(piece, to)];
  return arcPiece({ ...piece.arc, start: Math.min(a, b), end: Math.max(a, b) }, piece.clockwise);
}

export function reversedPiece(piece: Piece): Piece {
  if (piece.kind === 'segment') return segmentPiece(piece.to, piece.from);
  if (piece.kind === 'arc') return arcPiece(piece.arc, !piece.clockwise);
  const c = piece.cubic;
  return cubicPiece([c[6], c[7], c[4], c[5], c[2], c[3], c[0], c[1]]);
}

/** A piece where a similarity, mirrored or not, takes it. */
export function movedPiece(piece: Piece, map: Transform): Piece {
  if (piece.kind === 'segment')
    return segmentPiece(applyTransform(map, piece.from), applyTransform(map, piece.to));
  if (piece.kind === 'cubic') return cubicPiece(mapCubic(piece.cubic, map));
  return arcPiece(movedArc(piece.arc, map), determinant(map) < 0 ? !piece.clockwise : piece.clockwise);
}

export function mapCubic(c: Cubic, map: Transform): Cubic {
  const [a, b, d, e] = [0, 2, 4, 6].map((i) => applyTransform(map, [c[i], c[i + 1]]));
  return [...a, ...b, ...d, ...e] as unknown as Cubic;
}

/** An arc where a similarity takes it; counter-clockwise still, so that a mirror exchanges its ends. */
export function movedArc(arc: Arc, map: Transform): Arc {
  const [cx, cy] = applyTransform(map, [arc.cx, arc.cy]);
  const mirrored = determinant(map) < 0,
    sweep = arc.end - arc.start,
    first = mirrored ? arc.end : arc.start;
  const [c, s] = [Math.cos(first), Math.sin(first)];
  const start = normalAngle(Math.atan2(map[1] * c + map[3] * s, map[0] * c + map[2] * s));
  return { cx, cy, r: arc.r * meanScale(map), start, end: start + sweep };
}

/** At least so many chords to a full turn, however coarse they may be. */
const LEAST_CHORDS = 12;
const MOST_CHORDS = 720;

/** Points along the piece, both ends included, that stray from it by no more than the tolerance. */
export function flattenPiece(piece: Piece, tolerance: number): Point[] {
  if (piece.kind === 'segment') return [piece.from, piece.to];
  if (piece.kind === 'arc') {
    const sweep = piece.arc.end - piece.arc.start;
    const step = 2 * Math.acos(Math.max(0, 1 - tolerance / Math.max(piece.arc.r, tolerance)));
    const n = Math.min(
      MOST_CHORDS,
      Math.max(Math.ceil(sweep / step), Math.ceil((LEAST_CHORDS * sweep) / TAU)),
    );
    return Array.from({ length: n + 1 }, (_, i) => pieceAt(piece, i / n));
  }
  const c = piece.cubic;
  // The second differences of the control points bound how far a chord strays (Wang's rule for cubics).
  const bend = Math.max(
    Math.hypot(c[0] - 2 * c[2] + c[4], c[1] - 2 * c[3] + c[5]),
    Math.hypot(c[2] - 2 * c[4] + c[6], c[3] - 2 * c[5] + c[7]),
  );
  return flattenCubic(c, Math.min(MOST_CHORDS, Math.max(2, Math.ceil(Math.sqrt((0.75 * bend) / tolerance)))));
}
