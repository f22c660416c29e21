import { bandOf } from '@calque/core/building';
import { makeRegion, regionContains, type Point } from '@calque/core/geometry';
import { ofType, type Model, type Wall } from '@calque/core/model';
import { isMemberThere } from './member-offer';
import type { Offer } from './offer';

/** A wall is there already whose middle lies within this of both ends of one that is offered, millimetres. */
export const THERE = 60;

/** Is an offer in the model: taken, or drawn there before? */
export function isThere(
  model: Model,
  planeId: string,
  { shape, ring }: Offer,
  takenId: string | undefined,
): boolean {
  if (takenId !== undefined && model.has(takenId)) return true;
  if (shape.type === 'wall' && shape.curve)
    return ofType(model, 'wall').some((w) => isSameBend(w, shape, planeId));
  if (shape.type === 'wall') {
    const { from, to, thickness } = shape;
    return ofType(model, 'wall').some((w) => {
      if (w.planeId !== planeId || w.curve || Math.abs(w.thickness - thickness) > THERE) return false;
      const band = bandOf(w),
        middle = (band.left - band.right) / 2;
      return [from, to].every(([x, y]) => {
        const [dx, dy] = [x - band.from[0], y - band.from[1]],
          t = dx * band.ux + dy * band.uy;
        return (
          Math.abs(-dx * band.uy + dy * band.ux - middle) < THERE &&
          t > -THERE - thickness &&
          t < band.length + THERE + thickness
        );
      });
    });
  }
  if (shape.type === 'column')
    return ofType(model, 'column').some(
      (c) => c.planeId === planeId && Math.hypot(c.at[0] - shape.at[0], c.at[1] - shape.at[1]) < THERE,
    );
  if (ring) {
    const region = makeRegion([ring], 'nonzero');
    return ofType(model, 'space').some(
      (s) => s.planeId === planeId && regionContains(region, s.at[0], s.at[1]),
    );
  }
  if (shape.type === 'symbol')
    return ofType(model, 'symbol').some(
      (s) =>
        s.planeId === planeId &&
        s.mark === shape.mark &&
        (s.mark === 'north' || Math.hypot(s.at[0] - shape.at[0], s.at[1] - shape.at[1]) < THERE),
    );
  if (shape.type === 'stair')
    return ofType(model, 'stair').some(
      (s) =>
        s.planeId === planeId &&
        [s.from, s.to].every((p) =>
          [shape.from, shape.to].some((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < THERE),
        ),
    );
  if (shape.type === 'member') return isMemberThere(model, planeId, shape);
  if (shape.type === 'gridLine')
    return ofType(model, 'gridLine').some((g) => g.planeId === planeId && g.name === shape.name);
  return false;
}

/** Is a bent wall as another, whichever way it runs? */
function isSameBend(w: Wall, shape: Pick<Wall, 'from' | 'to' | 'curve'>, planeId: string): boolean {
  if (w.planeId !== planeId || !w.curve) return false;
  const near = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]) < THERE,
    bend = shape.curve ?? 0;
  return (
    (near(w.from, shape.from) && near(w.to, shape.to) && Math.abs(w.curve - bend) < SAME_BEND) ||
    (near(w.from, shape.to) && near(w.to, shape.from) && Math.abs(w.curve + bend) < SAME_BEND)
  );
}
const SAME_BEND = 0.1;
