import type { Bolts, OutlineRing, Pair, Plate } from '@calque/core/model';
import { source } from './given-walls.ts';

export const ringOf = (...points: Pair[]): OutlineRing => ({ points, bulges: points.map(() => 0) });
/** 200 x 100 on the upper flange of a beam along x, whose middle lies 100 below. */
export const plate = (more: Partial<Plate> = {}): Plate => ({
  type: 'plate',
  id: 'plate',
  planeId: 'ground',
  source,
  rings: [ringOf([1000, -50], [1200, -50], [1200, 50], [1000, 50])],
  rise: 100,
  thickness: 10,
  name: '',
  material: 'S355',
  density: 7850,
  weldedTo: null,
  ...more,
});
/** Four of M12 through it. */
export const bolts = (more: Partial<Bolts> = {}): Bolts => ({
  type: 'bolts',
  id: 'bolts',
  planeId: 'ground',
  source,
  at: [1100, 0],
  turn: 0,
  pattern: { form: 'rows', rows: 2, columns: 2, pitch: 56, gauge: 120 },
  d: 12,
  of: 'plate',
  rise: 100,
  reversed: false,
  ...more,
});
