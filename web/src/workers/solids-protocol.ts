import type { Entity } from '@calque/core/model';
import type { Scene } from '@calque/core/solids';

/** All that solids are made of. */
export interface ToSolids {
  entities: readonly Entity[];
}
export type FromSolids =
  { type: 'progress'; share: number } | { type: 'failed'; why: string } | { type: 'done'; scene: Scene };
