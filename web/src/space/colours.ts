import type { Loose } from '@calque/core/model';

/** Solids are quiet: paper and wood, never an accent. */
export const SOLID_COLOURS: Partial<Record<Loose['type'], string>> = {
  wall: '#f1f1ec',
  slab: '#d8d2c4',
  column: '#c3cad0',
  roof: '#c8a88e',
  stair: '#e0dcd0',
  member: '#a9b6bf',
};
