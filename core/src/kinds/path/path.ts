import {
  applyTransform,
  bulgePiece,
  determinant,
  lengthOfPieces,
  meanScale,
  pathPieces,
  pieceAt,
  pieceBox,
  unionBox,
  type Piece,
} from '../../geometry/index.ts';
import { formatLengthWithUnit } from '../../units/index.ts';
import {
  heldPoints,
  mirroredBulges,
  pairOf,
  scaledDashes,
  stretchesLeft,
  type Dashed,
  type Drawn,
  type Pair,
} from '../drawn.ts';
import { NO_BLOCKS, NO_FRAME, NO_INSIDE, type Edge, type Kind } from '../kind.ts';

/** A path of lines and arcs (see BulgePath): a chain, a rectangle, a slot, a regular shape. */
export interface TracedPath extends Drawn, Dashed {
  type: 'path';
  points: Pair[];
  /** One to each stretch. */
  bulges: number[];
  closed: boolean;
}

/** The stretches of a ring or path, their grips counted from `first`. */
export const edgesAlong = (
  points: readonly Pair[],
  bulges: readonly number[],
  closed: boolean,
  first: number,
): Edge[] =>
  bulges.slice(0, closed ? points.length : points.length - 1).map((bulge, i) => {
    const j = (i + 1) % points.length;
    return { middle: pieceAt(bulgePiece(points[i], points[j], bulge), 0.5), grips: [first + i, first + j] };
  });
export const boxOfPieces = (pieces: readonly Piece[]) => pieces.map(pieceBox).reduce(unionBox);

export const PATH: Kind<TracedPath> = {
  word: (e) => (e.closed ? 'closed path' : 'path'),
  summary: (e, style) => formatLengthWithUnit(lengthOfPieces(pathPieces(e)), style),
  layer: { name: 'Lines', colour: 0x55616d, lineType: 'solid' },
  isRun: true,
  carries: true,
  rests: null,
  refers: [],
  blocks: NO_BLOCKS,
  doubts: null,
  shapes: ({ points, bulges, closed, dash }, layer) => [
    { kind: 'polyline', layer, points, bulges, closed, ...(dash && { dash }) },
  ],
  pieces: pathPieces,
  box: (e) => boxOfPieces(pathPieces(e)),
  length: (e) => lengthOfPieces(pathPieces(e)),
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: (e) => e.points,
  joints: (e) => e.points.map((_, i) => i),
  ends: (e) => (e.closed ? null : [e.points[0], e.points[e.points.length - 1]]),
  edges: (e) => edgesAlong(e.points, e.bulges, e.closed, 0),
  moved: (e, map) => ({
    ...e,
    ...scaledDashes(e, meanScale(map)),
    points: e.points.map((p) => applyTransform(map, p)),
    bulges: mirroredBulges(e.bulges, determinant(map) < 0),
  }),
  withGrip: (e, grip, to) => {
    const points = e.points.map((p, i) => (i === grip ? pairOf(to) : p));
    return stretchesLeft(points, e.closed) ? { ...e, points } : null;
  },
  stretched: (e, holds, by) => {
    const { points, moved } = heldPoints(e.points, holds, by);
    if (!moved) return e;
    return stretchesLeft(points, e.closed) ? { ...e, points } : null;
  },
};
