import { create } from 'zustand';
import { facing } from '@calque/core/geometry';
import { get, TRACED_TYPES, type Model, type WorkPlane } from '@calque/core/model';
import { depthOf, frameOf } from '@calque/core/planes';
import type { Seen } from '@calque/core/solids';

/** The building as it is seen from an upright plane, to check what is drawn there by; and the plane whose depth alone is shown. */
interface SeenState {
  /** Is it shown where a plane is in hand? */
  isWanted: boolean;
  /** What is seen from a plane, as it was made last. */
  planeId: string | null;
  seen: Seen | null;
  /** The plane beyond whose depth nothing is shown. */
  slabId: string | null;
}

export const useSeen = create<SeenState>(() => ({
  isWanted: true,
  planeId: null,
  seen: null,
  slabId: null,
}));

const SOLID = TRACED_TYPES.filter((t) =>
  ['wall', 'slab', 'column', 'roof', 'stair', 'member', 'plate', 'bolts', 'placed'].includes(t),
);
/** Is there anything that stands? */
export const hasSolids = (model: Model): boolean => SOLID.some((t) => model.hasType(t));

/** Has a plane an end, so that its slab of space is less than all? */
export function hasDepth(plane: WorkPlane): boolean {
  const { before, behind } = depthOf(plane);
  return Number.isFinite(before) || Number.isFinite(behind);
}

/** The plane whose slab is shown alone; null where there is none, or it has lost its depth. */
export function slabPlane(model: Model): WorkPlane | null {
  const { slabId } = useSeen.getState(),
    plane = slabId === null ? null : get(model, 'plane', slabId);
  return plane && hasDepth(plane) ? plane : null;
}

/** How far before the slab's plane a place of another plane lies: a x + b y + c; and between which bounds that is within it. */
export function slabOn(
  slab: WorkPlane,
  plane: Parameters<typeof frameOf>[0],
): { a: number; b: number; c: number; low: number; high: number } {
  const { before, behind } = depthOf(slab),
    n = facing(frameOf(slab)),
    { origin, across, up } = frameOf(plane),
    dot = (v: readonly number[]) => v[0] * n[0] + v[1] * n[1] + v[2] * n[2];
  return {
    a: dot(across),
    b: dot(up),
    c: dot(origin) - dot(frameOf(slab).origin),
    low: -behind,
    high: before,
  };
}
