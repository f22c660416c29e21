import type { Model } from '../../model/index.ts';
import { solveSketch } from '../sketch/solve.ts';
import { stateOf } from '../sketch/state.ts';
import { fromSketch, planeSketch, type Ruled } from './of-plane.ts';

/** A way is shown by moving what it stirs the most by so much of the linework's width. */
const SHARE = 0.06;

/**
 * How the linework of a plane can still move: for each way the pieces that it stirs, as they would be a little farther along it, all rules kept. None where
 * everything is fixed, or where rules contradict one another.
 */
export function waysToMove(model: Model, planeId: string): Ruled[][] {
  const { sketch, ruled } = planeSketch(model, planeId);
  if (sketch.points.length === 0) return [];
  const xs = sketch.points.flatMap((p) => p.at[0]),
    ys = sketch.points.flatMap((p) => p.at[1]),
    size = Math.max(1, Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)) * SHARE;
  return stateOf(sketch).ways.flatMap((way) => {
    const largest = Math.max(...[...way.values()].map((v) => Math.hypot(...v)));
    if (!(largest > 0)) return [];
    const by = size / largest,
      moved = solveSketch({
        ...sketch,
        points: sketch.points.map((p) => {
          const v = way.get(p.id);
          return v ? { ...p, at: [p.at[0] + by * v[0], p.at[1] + by * v[1]] } : p;
        }),
        curves: sketch.curves.map((c) => {
          const v = c.kind === 'circle' ? way.get(c.id) : undefined;
          return c.kind === 'circle' && v
            ? { ...c, radius: Math.max(c.radius / 2, c.radius + by * v[0]) }
            : c;
        }),
      });
    if (!moved.holds) return [];
    const at = new Map(moved.sketch.points.map((p) => [p.id, p]));
    const pieces = [...ruled.values()].flatMap((e): Ruled[] => {
      const fields = fromSketch(e, moved.sketch, at);
      return fields && stirs(e, fields) ? [{ ...e, ...fields } as Ruled] : [];
    });
    return pieces.length === 0 ? [] : [pieces];
  });
}

const STILL = 1e-6;
const stirs = (e: Ruled, fields: Partial<Ruled>): boolean =>
  Object.entries(fields).some(([key, now]) => {
    const was = [e[key as keyof Ruled]].flat() as unknown as number[];
    return ([now].flat() as unknown as number[]).some((v, i) => Math.abs(v - was[i]) > STILL);
  });
