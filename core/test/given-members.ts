import type { Member } from '@calque/core/model';
import { source } from './given-walls.ts';

/** A beam of 4 m along x, its middle on the line. */
export const member = (more: Partial<Member> = {}): Member => ({
  type: 'member',
  id: 'm',
  planeId: 'ground',
  source,
  from: [0, 0],
  to: [4000, 0],
  rise: [0, 0],
  section: { form: 'table', name: 'IPE 200' },
  point: 5,
  turn: 0,
  mirrored: false,
  back: [0, 0],
  role: 'beam',
  material: 'S355',
  density: 7850,
  mark: '',
  ...more,
});
