import { facing, type ModelPoint } from '@calque/core/geometry';
import { get, type Model, type WorkPlane } from '@calque/core/model';
import { depthOf, frameOf } from '@calque/core/planes';
import type { Cut } from './state';
import type { CutPlane } from './surface';

/** Room about what a box is cut around, millimetres. */
const AROUND = 300;

export interface Extent {
  low: ModelPoint;
  high: ModelPoint;
}

/** The sides of the slab of space that is shown alone. */
export function slabCuts(slab: WorkPlane | null): CutPlane[] {
  if (!slab) return [];
  const { before, behind } = depthOf(slab),
    normal = facing(frameOf(slab)),
    away: ModelPoint = [-normal[0], -normal[1], -normal[2]],
    at = (by: number): ModelPoint => [
      slab.origin[0] + by * normal[0],
      slab.origin[1] + by * normal[1],
      slab.origin[2] + by * normal[2],
    ];
  return [
    ...(Number.isFinite(before) ? [{ at: at(before), normal }] : []),
    ...(Number.isFinite(behind) ? [{ at: at(-behind), normal: away }] : []),
  ];
}

/** The planes by which a building is cut: what lies on the side of their normals is away. */
export function cutPlanes(
  cut: Cut,
  model: Model,
  all: Extent | null,
  boxOf: (ids: ReadonlySet<string>) => Extent | null,
): CutPlane[] {
  if (cut.by === 'height' && all)
    return [{ at: [0, 0, all.low[2] + cut.share * (all.high[2] - all.low[2])], normal: [0, 0, 1] }];
  if (cut.by === 'plane') {
    const plane = get(model, 'plane', cut.planeId);
    // What stands before the plane, towards whoever looks at it square on, is away.
    return plane ? [{ at: plane.origin, normal: facing(frameOf(plane)) }] : [];
  }
  const box = cut.by === 'box' ? boxOf(new Set(cut.ids)) : null;
  if (!box) return [];
  return [0, 1, 2].flatMap((axis) =>
    ([1, -1] as const).map((sign): CutPlane => {
      const at: [number, number, number] = [...(sign > 0 ? box.high : box.low)],
        normal: [number, number, number] = [0, 0, 0];
      at[axis] += sign * AROUND;
      normal[axis] = sign;
      return { at, normal };
    }),
  );
}
