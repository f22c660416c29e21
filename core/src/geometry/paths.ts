import { normalAngle, TAU } from './arcs.ts';
import { arcPiece, pieceAt, pieceLength, segmentPiece, type Piece } from './pieces.ts';
import { cubicAt } from './bezier.ts';
import type { Point } from './spaces.ts';

/**
 * A path of lines and arcs: the bulge of a stretch is the tangent of a quarter of its sweep, above 0 where it runs
 * counter-clockwise, 0 where it is straight (the measure that DXF uses). A closed path returns to its first point.
 */
export interface BulgePath {
  points: readonly Point[];
  bulges: readonly number[];
  closed: boolean;
}

/**
 * Beyond this radius, a thousand kilometres, a bend is straight to a drawing (an eightieth of a millimetre over ten metres), and its
 * sweep is too small a part of a turn for its length to be told from its angles.
 */
const STRAIGHT_RADIUS = 1e9;
/** So flat a bend strays from its chord by less than rounding does. */
const LEAST_BULGE = 1e-14;

/** The stretch from one point to another with a bulge. */
export function bulgePiece(from: Point, to: Point, bulge: number): Piece {
  const dx = to[0] - from[0],
    dy = to[1] - from[1];
  const flat = Math.abs(bulge);
  if (flat < LEAST_BULGE || Math.hypot(dx, dy) >= 4 * STRAIGHT_RADIUS * flat) return segmentPiece(from, to);
  // The centre lies across the middle of the chord: (1 - b^2) / 4b chords to its left.
  const k = (1 - bulge * bulge) / (4 * bulge);
  const cx = (from[0] + to[0]) / 2 - k * dy,
    cy = (from[1] + to[1]) / 2 + k * dx;
  const r = Math.hypot(from[0] - cx, from[1] - cy),
    sweep = 4 * Math.atan(Math.abs(bulge));
  const first = bulge > 0 ? from : to;
  const start = normalAngle(Math.atan2(first[1] - cy, first[0] - cx));
  return arcPiece({ cx, cy, r, start, end: start + sweep }, bulge < 0);
}

/** Bulge of a line or an arc; a full circle has none, and is given in two halves by its owner. */
export function bulgeOf(piece: Piece): number {
  if (piece.kind !== 'arc') return 0;
  return (piece.clockwise ? -1 : 1) * Math.tan((piece.arc.end - piece.arc.start) / 4);
}

export function pathPieces({ points, bulges, closed }: BulgePath): Piece[] {
  const n = closed ? points.length : points.length - 1;
  return Array.from({ length: n }, (_, i) =>
    bulgePiece(points[i], points[(i + 1) % points.length], bulges[i] ?? 0),
  );
}

/** A run of lines and arcs, end on end, as a path. Joints are taken from the beginnings of the pieces. */
export function pathOfPieces(
  pieces: readonly Piece[],
  closed: boolean,
): { points: [number, number][]; bulges: number[]; closed: boolean } {
  const points = pieces.map((p) => pieceAt(p, 0)),
    bulges = pieces.map(bulgeOf);
  if (!closed) points.push(pieceAt(pieces[pieces.length - 1], 1));
  return { points, bulges, closed };
}

export const lengthOfPieces = (pieces: readonly Piece[]): number =>
  pieces.reduce((sum, p) => sum + pieceLength(p), 0);

/**
 * The area that a closed run of pieces encloses, above 0 counter-clockwise: the polygon of its joints (shoelace formula) with the
 * segment of each arc, r^2 (sweep - sin sweep) / 2, and for a Bézier the exact integral of x dy - y dx (Gauss, four points).
 */
export function areaOfPieces(pieces: readonly Piece[]): number {
  if (pieces.length === 0) return 0;
  const [ox, oy] = pieceAt(pieces[0], 0);
  let twice = 0;
  for (const p of pieces) {
    const [x0, y0] = pieceAt(p, 0),
      [x1, y1] = pieceAt(p, 1);
    twice += (x0 - ox) * (y1 - oy) - (x1 - ox) * (y0 - oy);
    if (p.kind === 'arc') {
      const sweep = p.arc.end - p.arc.start;
      twice += (p.clockwise ? -1 : 1) * p.arc.r * p.arc.r * (sweep - Math.sin(sweep));
    } else if (p.kind === 'cubic') twice += twiceAreaToChord(p.cubic);
  }
  return twice / 2;
}

/** Nodes and weights of Gauss-Legendre on 0..1 with four points: exact up to degree seven, and x dy - y dx has five. */
const GAUSS = [
  [0.06943184420297371, 0.17392742256872692],
  [0.33000947820757187, 0.32607257743127307],
  [0.6699905217924281, 0.32607257743127307],
  [0.9305681557970262, 0.17392742256872692],
] as const;

function twiceAreaToChord(c: Parameters<typeof cubicAt>[0]): number {
  let sum = 0;
  for (const [t, w] of GAUSS) {
    const [x, y] = cubicAt(c, t),
      u = 1 - t;
    const d = (i: number) =>
      3 * (u * u * (c[2 + i] - c[i]) + 2 * u * t * (c[4 + i] - c[2 + i]) + t * t * (c[6 + i] - c[4 + i]));
    sum += w * ((x - c[0]) * d(1) - (y - c[1]) * d(0));
  }
  return sum;
}

/** Corners of a regular shape about a centre, the first at a corner point or, `acrossFlats`, at the middle of a side. */
export function regularCorners(
  centre: Point,
  towards: Point,
  sides: number,
  acrossFlats: boolean,
): [number, number][] {
  const reach = Math.hypot(towards[0] - centre[0], towards[1] - centre[1]),
    half = Math.PI / sides;
  const r = acrossFlats ? reach / Math.cos(half) : reach;
  const first = Math.atan2(towards[1] - centre[1], towards[0] - centre[0]) + (acrossFlats ? half : 0);
  return Array.from({ length: sides }, (_, i) => [
    centre[0] + r * Math.cos(first + (i * TAU) / sides),
    centre[1] + r * Math.sin(first + (i * TAU) / sides),
  ]);
}

/** The outline of a slot between two centres. */
export function slotPath(
  from: Point,
  to: Point,
  width: number,
): { points: [number, number][]; bulges: number[]; closed: boolean } {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    k = width / 2 / length;
  const nx = -(to[1] - from[1]) * k,
    ny = (to[0] - from[0]) * k;
  return {
    points: [
      [from[0] - nx, from[1] - ny],
      [to[0] - nx, to[1] - ny],
      [to[0] + nx, to[1] + ny],
      [from[0] + nx, from[1] + ny],
    ],
    bulges: [0, 1, 0, 1],
    closed: true,
  };
}

/** The rectangle over one side whose far side goes through a third point. */
export function turnedRectangle(a: Point, b: Point, through: Point): [number, number][] {
  const dx = b[0] - a[0],
    dy = b[1] - a[1],
    square = dx * dx + dy * dy;
  const k = (dx * (through[1] - a[1]) - dy * (through[0] - a[0])) / square;
  return [
    [a[0], a[1]],
    [b[0], b[1]],
    [b[0] - k * dy, b[1] + k * dx],
    [a[0] - k * dy, a[1] + k * dx],
  ];
}
