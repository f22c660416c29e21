import { segmentPiece } from '../../geometry/index.ts';
import type { Drawn, Pair } from '../drawn.ts';
import { shapeOfPiece, wordsAt } from '../flat-shape.ts';
import { NO_GRIPS, type Kind } from '../kind.ts';
import { straightKind } from '../straight.ts';

/** A grid line of the building, named in a ring at its first end. */
export interface GridLine extends Drawn {
  type: 'gridLine';
  from: Pair;
  to: Pair;
  name: string;
}

/** Radius of the ring in which its name stands where it is delivered, millimetres: 5 mm of paper at 1:50. */
const RING = 250;

/** Middle of the ring with a grid line's name: beyond its first end, touching it. */
export function gridLineRing({ from, to }: Pick<GridLine, 'from' | 'to'>, radius: number): [number, number] {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  return [from[0] - (radius * (to[0] - from[0])) / length, from[1] - (radius * (to[1] - from[1])) / length];
}

export const GRID_LINE: Kind<GridLine> = {
  ...straightKind<GridLine>(),
  word: () => 'grid line',
  summary: (e) => e.name,
  layer: { name: 'Grid lines', colour: 0x8a5a12, lineType: 'dash-dot' },
  shapes: (e, layer) => {
    const ring = gridLineRing(e, RING);
    return [
      shapeOfPiece(segmentPiece(e.from, e.to), layer),
      { kind: 'circle', layer, cx: ring[0], cy: ring[1], r: RING },
      wordsAt(e.name, [ring[0], ring[1] - RING / 3], 0, 0.7 * RING, layer),
    ];
  },
  joints: NO_GRIPS,
  ends: () => null,
};
