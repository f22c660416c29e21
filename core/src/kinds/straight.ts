import { applyTransform, pieceBox, segmentPiece, type Transform } from '../geometry/index.ts';
import { heldPoints, isOnePoint, pairOf, type Pair } from './drawn.ts';
import { shapeOfPiece } from './flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, NO_INSIDE, type Kind } from './kind.ts';
import { formatLengthWithUnit } from '../units/index.ts';

interface Straight {
  from: Pair;
  to: Pair;
  dash?: number[] | null;
}
const lengthOf = ({ from, to }: Straight) => Math.hypot(to[0] - from[0], to[1] - from[1]);

/** What all elements have that are a straight line from one point to another. */
export function straightKind<E extends Straight>(): Omit<Kind<E>, 'word' | 'layer'> {
  return {
    summary: (e, style) => formatLengthWithUnit(lengthOf(e), style),
    isRun: true,
    carries: true,
    rests: null,
    refers: [],
    blocks: NO_BLOCKS,
    doubts: null,
    shapes: (e, layer) => [shapeOfPiece(segmentPiece(e.from, e.to), layer, e)],
    pieces: (e) => [segmentPiece(e.from, e.to)],
    box: (e) => pieceBox(segmentPiece(e.from, e.to)),
    length: lengthOf,
    frame: NO_FRAME,
    inside: NO_INSIDE,
    grips: (e) => [e.from, e.to],
    joints: () => [0, 1],
    ends: (e) => [e.from, e.to],
    edges: NO_EDGES,
    moved: (e, map) => ({ ...e, ...movedEnds(e, map) }),
    withGrip: (e, grip, to) => {
      const moved = grip === 0 ? { ...e, from: pairOf(to) } : { ...e, to: pairOf(to) };
      return isOnePoint(moved.from, moved.to) ? null : moved;
    },
    stretched: (e, holds, by) => {
      const {
        points: [from, to],
        moved,
      } = heldPoints([e.from, e.to], holds, by);
      if (!moved) return e;
      return Math.hypot(to[0] - from[0], to[1] - from[1]) > 1e-6 ? { ...e, from, to } : null;
    },
  };
}

export const movedEnds = (e: Straight, map: Transform): Pick<Straight, 'from' | 'to'> => ({
  from: applyTransform(map, e.from),
  to: applyTransform(map, e.to),
});
