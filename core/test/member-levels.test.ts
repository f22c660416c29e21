import { describe, expect, it } from 'vitest';
import { atLevel, heightAt, keepsLevel, levelsOfMembers } from '@calque/core/framing';
import { translation } from '@calque/core/geometry';
import {
  applyOrThrow,
  endsSwapped,
  get,
  movedBy,
  parseEntity,
  setFields,
  type Member,
  type WorkPlane,
} from '@calque/core/model';
import { model } from './given-joints.ts';
import { member } from './given-members.ts';

/** An elevation whose zero lies half a metre below that of the building. */
const plane: WorkPlane = {
  type: 'plane',
  id: 'front',
  name: 'Frame A',
  role: 'elevation',
  origin: [0, 0, -500],
  across: [1, 0, 0],
  up: [0, 0, 1],
  width: 9000,
  height: 5000,
};
const rafter = member({ id: 'rafter', planeId: 'front', from: [0, 3946], to: [3000, 5203] });
const said = { level: 3450, text: '+3.450', drawn: 3446 };
const done = (m: Member, ends: ('start' | 'end')[]) => {
  const given = model(plane, m),
    fields = atLevel(given, m, ends, said);
  if (typeof fields === 'string') throw new Error(fields);
  return applyOrThrow(given, setFields<Member>(m, fields)!);
};

describe('members at printed levels', () => {
  it('the end lies at the print exactly, the other where it was; what the sheet draws is kept beside it', () => {
    const after = done(rafter, ['start']),
      now = get(after, 'member', 'rafter')!;
    expect(heightAt(after, now, 'start')).toBeCloseTo(3450, 12);
    expect(now.from).toEqual([0, 3950]);
    expect(now.to).toEqual(rafter.to);
    expect(levelsOfMembers(after)).toEqual([
      { id: 'rafter', end: 'start', ...said, now: expect.closeTo(3450, 9) },
    ]);
    expect(levelsOfMembers(after).every(keepsLevel)).toBe(true);
    expect(parseEntity(JSON.parse(JSON.stringify(now)))).toEqual(now);
  });

  it('moved away it keeps its print no more; with its ends changed for one another it goes with its end', () => {
    const after = done(rafter, ['start']),
      now = get(after, 'member', 'rafter')!,
      fields = (m: Member) => ({ from: m.from, to: m.to });
    const lifted = applyOrThrow(after, setFields<Member>(now, fields(movedBy(now, translation(0, 3))))!);
    expect(levelsOfMembers(lifted).map(keepsLevel)).toEqual([false]);
    expect(endsSwapped(now).levels).toEqual([{ end: 'end', ...said }]);
    expect(endsSwapped(endsSwapped(now)).levels).toEqual(now.levels);
  });

  it('both ends make it level; what has nothing left, or lies on a plan, is told', () => {
    const level = get(done(rafter, ['start', 'end']), 'member', 'rafter')!;
    expect([level.from[1], level.to[1]]).toEqual([3950, 3950]);
    const post = member({ id: 'post', planeId: 'front', from: [0, 3950], to: [0, 500] });
    expect(atLevel(model(plane, post), post, ['end'], said)).toMatch(/Nothing would be left/);
    const flat = member({ id: 'flat' });
    expect(atLevel(model(flat), flat, ['end'], said)).toMatch(/upright plane/);
    expect(() =>
      parseEntity({
        ...rafter,
        levels: [
          { end: 'start', ...said },
          { end: 'start', ...said },
        ],
      }),
    ).toThrow();
  });
});
