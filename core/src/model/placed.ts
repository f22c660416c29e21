import { applyTransform } from '../geometry/index.ts';
import type { Loose, Placed } from './entities.ts';

/** A placed group with its elements where they show. They are no field that is stored, copied or compared. */
export function withMembers(placed: Placed, members: readonly Loose[]): Placed {
  return Object.defineProperty({ ...placed }, 'members', { value: members, enumerable: false });
}

/** The point by which it is placed. */
export const placedAt = (placed: Pick<Placed, 'placement'>): [number, number] => applyTransform(placed.placement, [0, 0]);
