import { applyTransform, lengthOfPieces, meanScale, splinePieces } from '../../geometry/index.ts';
import { formatLengthWithUnit } from '../../units/index.ts';
import { isOnePoint, scaledDashes, shifted, type Dashed, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, NO_INSIDE, type Kind } from '../kind.ts';
import { boxOfPieces } from '../path/path.ts';

/** A smooth curve by the control points of its Béziers: point, handle, handle, point … */
export interface Spline extends Drawn, Dashed {
  type: 'spline';
  controls: Pair[];
}

/** The points that it goes through. */
const gripsOf = (e: Spline) => e.controls.filter((_, i) => i % 3 === 0);

export const SPLINE: Kind<Spline> = {
  word: () => 'curve',
  summary: (e, style) => formatLengthWithUnit(lengthOfPieces(splinePieces(e.controls)), style),
  layer: { name: 'Lines', colour: 0x55616d, lineType: 'solid' },
  isRun: true,
  carries: true,
  rests: null,
  refers: [],
  blocks: NO_BLOCKS,
  doubts: null,
  shapes: (e, layer) => splinePieces(e.controls).map((p) => shapeOfPiece(p, layer, e)),
  pieces: (e) => splinePieces(e.controls),
  box: (e) => boxOfPieces(splinePieces(e.controls)),
  length: (e) => lengthOfPieces(splinePieces(e.controls)),
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: gripsOf,
  joints: (e) => [0, gripsOf(e).length - 1],
  ends: (e) => {
    const [p, q] = [e.controls[0], e.controls[e.controls.length - 1]];
    return p[0] === q[0] && p[1] === q[1] ? null : [p, q];
  },
  edges: NO_EDGES,
  moved: (e, map) => ({
    ...e,
    ...scaledDashes(e, meanScale(map)),
    controls: e.controls.map((p) => applyTransform(map, p)),
  }),
  // The handles beside a point go with it, and the two ends of a closed curve together.
  withGrip: (e, grip, to) => {
    const at = gripsOf(e)[grip],
      by: Pair = [to[0] - at[0], to[1] - at[1]];
    const last = e.controls.length - 1,
      closed = isOnePoint(e.controls[0], e.controls[last]);
    const held = new Set([3 * grip]);
    if (closed && (grip === 0 || 3 * grip === last)) held.add(0).add(last);
    return {
      ...e,
      controls: e.controls.map((p, i) => ([i - 1, i, i + 1].some((k) => held.has(k)) ? shifted(p, by) : p)),
    };
  },
  stretched: (e, holds, by) => {
    const controls = e.controls.map((p, i): Pair =>
      holds(e.controls[3 * Math.round(i / 3)]) ? shifted(p, by) : p,
    );
    return controls.every((p, i) => p === e.controls[i]) ? e : { ...e, controls };
  },
};
