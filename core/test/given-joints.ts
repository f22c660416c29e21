import { joinedFrame } from '@calque/core/framing';
import { groundStorey, modelOf, type Entity, type Joint, type Member, type Model } from '@calque/core/model';

import { takeoff } from '@calque/core/takeoff';

import { member } from './given-members.ts';

export const table = (name: string) => ({ form: 'table' as const, name });
export const model = (...members: Entity[]): Model =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 1 },
    groundStorey('ground'),
    ...members,
  ]);
export const joint = (
  end: Joint['end'],
  form: Joint['form'],
  to: string | null,
  sizes?: Joint['sizes'],
): Joint => ({
  end,
  form,
  to,
  ...(sizes && { sizes }),
});
/** A column of HEB 200 on the origin; its flanges look along x, or along y where it is given a quarter turn. */
export const column = (more: Partial<Member> = {}): Member =>
  member({
    id: 'column',
    from: [0, 0],
    to: [0, 0],
    rise: [0, 4000],
    section: table('HEB 200'),
    role: 'column',
    ...more,
  });
/** A beam of IPE 200 along x that ends at the column's middle, 2 m above the floor. */
export const beam = (more: Partial<Member> = {}): Member =>
  member({ id: 'beam', from: [-4000, 0], to: [0, 0], rise: [2000, 2000], ...more });
export const rowOf = (m: Model, id = 'beam') => takeoff(m).members.find((r) => r.id === id)!;
export const shapeOf = (m: Model, id = 'beam') => joinedFrame(m).shapes.get(id)!;
export const words = (m: Model) => joinedFrame(m).doubts.map((d) => d.words);
