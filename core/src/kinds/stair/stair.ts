import { applyTransform, determinant, lengthOfPieces, meanScale, type Block } from '../../geometry/index.ts';
import type { Drawn } from '../drawn.ts';
import { shapeOfPiece, type Shape } from '../flat-shape.ts';
import { NO_EDGES, NO_FRAME, type Kind } from '../kind.ts';
import { boxOfPieces } from '../path/path.ts';
import { straightKind } from '../straight.ts';
import { risersOf, stairLines, stairOutline, stairParts, type Steps } from './steps.ts';

/** A stair of straight flights; millimetres. */
export interface Stair extends Drawn, Steps {
  type: 'stair';
  riseAssumed: boolean;
}

const piecesOf = (e: Stair) => stairLines(e);

const OTHER_SIDE = { left: 'right', right: 'left' } as const;

const ENDS = straightKind<Stair>();

export const STAIR: Kind<Stair> = {
  word: () => 'stair',
  summary: (e) => `${risersOf(e)} risers`,
  layer: { name: 'Stairs', colour: 0x55616d, lineType: 'solid' },
  isRun: false,
  carries: true,
  rests: null,
  refers: [],
  shapes: (e, layer) => piecesOf(e).map((piece): Shape => shapeOfPiece(piece, layer)),
  pieces: piecesOf,
  box: (e) => boxOfPieces(piecesOf(e)),
  length: (e) => lengthOfPieces(piecesOf(e)),
  frame: NO_FRAME,
  inside: (e) => [stairOutline(e)],
  grips: ENDS.grips,
  joints: () => [],
  ends: () => null,
  edges: NO_EDGES,
  doubts: {
    assumed: (e) => (e.riseAssumed ? ['rise'] : []),
    confirmed: (e) => ({ ...e, riseAssumed: false }),
  },
  blocks: (e): Block[] => stairParts(e),
  moved: (e, map) => {
    const k = meanScale(map),
      flipped = determinant(map) < 0;
    return {
      ...e,
      from: applyTransform(map, e.from),
      to: applyTransform(map, e.to),
      width: e.width * k,
      ...(e.back && {
        back: {
          ...e.back,
          gap: e.back.gap * k,
          landing: e.back.landing * k,
          side: flipped ? OTHER_SIDE[e.back.side] : e.back.side,
        },
      }),
    };
  },
  withGrip: ENDS.withGrip,
  stretched: ENDS.stretched,
};
