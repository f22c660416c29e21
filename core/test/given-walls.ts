import type { Pair, Wall } from '@calque/core/model';

export const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;
/** A wall of usual thickness whose height is known. */
export const wall = (id: string, from: Pair, to: Pair, more: Partial<Wall> = {}): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  source,
  from,
  to,
  thickness: 200,
  alignment: 'centre',
  height: 2700,
  heightAssumed: false,
  ...more,
});
