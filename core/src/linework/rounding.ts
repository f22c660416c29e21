import { meanScale, type Transform } from '../geometry/index.ts';

/** Steps that programs round the coordinates of a path to, the coarsest first; in the path's own units. */
const STEPS = [1, 0.1, 0.01];
/** Coordinates are kept in 32-bit floats: a number this near to a whole one is one. */
const WHOLE = 0.01;
/** Steps coarser than this are no rounding but a drawing on a grid, sheet points. */
const COARSEST = 0.15;

/**
 * The step that the coordinates of a path were rounded to, sheet points: office programs write whole hundredths of a millimetre, others one
 * or two decimals of a point. 0 where they are finer than that. `coords`: x, y in turn, `count` points, before `matrix`.
 */
export function roundingOf(coords: ArrayLike<number>, count: number, matrix: Transform): number {
  const k = meanScale(matrix);
  for (const step of STEPS) {
    if (step * k > COARSEST) continue;
    let rounded = true;
    for (let i = 0; i < 2 * count && rounded; i++) {
      const n = coords[i] / step;
      rounded = Math.abs(n - Math.round(n)) <= WHOLE;
    }
    if (rounded) return step * k;
  }
  return 0;
}
