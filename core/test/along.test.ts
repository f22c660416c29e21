import { describe, expect, it } from 'vitest';
import { frameAlong, gridsBehind, joinedFrame, spacings, type Along } from '@calque/core/framing';
import {
  applyOrThrow,
  closedAssembly,
  get,
  groundStorey,
  leftAssembly,
  modelOf,
  ofType,
  openedAssembly,
  removedAssembly,
  setFields,
  takenApart,
  type Entity,
  type Joint,
  type Member,
  type Model,
} from '@calque/core/model';
import { uprightPlane } from '@calque/core/planes';
import { takeoff } from '@calque/core/takeoff';
import { member } from './given-members.ts';

const meets = (end: Joint['end'], form: Joint['form'], to: string | null): Joint => ({ end, form, to });
const table = (name: string) => ({ form: 'table' as const, name });
const post = (id: string, x: number): Member =>
  member({
    id,
    planeId: 'side',
    from: [x, 0],
    to: [x, 4000],
    turn: Math.PI / 2,
    section: table('IPE 300'),
    role: 'column',
    joints: [meets('start', 'basePlate', null)],
  });
/** A portal on an upright plane, and an eaves beam on the floor's plan that meets its west column. */
const model = (): Model =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 1 },
    groundStorey('ground'),
    uprightPlane('side', { from: [0, 0], to: [12000, 0], height: 6000, name: 'Frame B', role: 'section' })!,
    post('west', 0),
    post('east', 6000),
    member({
      id: 'rafter',
      planeId: 'side',
      from: [0, 4000],
      to: [6000, 4600],
      turn: Math.PI / 2,
      section: table('IPE 300'),
      role: 'rafter',
      joints: [meets('start', 'mitre', 'west'), meets('end', 'face', 'east')],
    }),
    member({
      id: 'eaves',
      from: [0, 5000],
      to: [0, 0],
      rise: [3500, 3500],
      section: table('IPE 160'),
      joints: [meets('end', 'face', 'west')],
    }),
  ]);
let n = 0;
const newId = () => `new${n++}`;
const copied = (m: Model, more: Partial<Along> = {}) => {
  const made = frameAlong(m, get(m, 'plane', 'side')!, {
    distances: [5000, 10000],
    names: ['Frame C', 'Frame D'],
    linked: true,
    mirrored: false,
    newId,
    ...more,
  });
  if (typeof made === 'string') throw new Error(made);
  return applyOrThrow(m, made.change);
};
const lengths = (m: Model) =>
  takeoff(m)
    .members.map((r) => `${r.section} ${r.length.toFixed(3)} ${r.mass!.toFixed(3)}`)
    .sort();
const doubts = (m: Model) => joinedFrame(m).doubts;

describe('a frame copied along', () => {
  it.each([true, false])(
    'stands on planes of its own behind the first, joined as that is (linked: %s)',
    (linked) => {
      const before = lengths(model()),
        m = copied(model(), { linked });
      expect(doubts(m)).toEqual([]);
      const planes = ofType(m, 'plane').map((p) => [p.name, ...p.origin.map((v) => Math.round(v) + 0)]);
      // Seen from before the plane, behind is along y.
      expect(planes).toEqual([
        ['Frame B', 0, 0, 0],
        ['Frame C', 0, 5000, 0],
        ['Frame D', 0, 10000, 0],
      ]);
      const frames = before.filter((l) => !l.startsWith('IPE 160')),
        eaves = before.filter((l) => l.startsWith('IPE 160'));
      expect(lengths(m)).toEqual([...frames, ...frames, ...frames, ...eaves].sort());
      expect(joinedFrame(m).plates).toHaveLength(6);
    },
  );

  it.each([true, false])(
    'turned they stand about an upright line of the frame, equal piece by piece (linked: %s)',
    (linked) => {
      const quarter = copied(model(), {
        linked,
        distances: [0, 0],
        turned: { by: Math.PI / 2, about: 'left' },
      });
      expect(doubts(quarter)).toEqual([]);
      // The west columns stand at 0, the east ones 6 m from it along x, y and against x. The box is that of what is drawn.
      const feet = joinedFrame(quarter)
        .members.filter(
          (m) => m.member.id.endsWith('east') || (m.member.role === 'column' && m.from[2] < 100),
        )
        .map((m) => m.from.map((v) => Math.round(v)).slice(0, 2));
      expect(feet.length).toBeGreaterThanOrEqual(6);
      const far = feet.map(([x, y]) => Math.hypot(x + 150, y)).map(Math.round);
      expect([...new Set(far)].sort((a, b) => a - b)).toEqual([150, 6150]);
      const frames = lengths(model()).filter((l) => !l.startsWith('IPE 160'));
      expect(lengths(quarter).filter((l) => !l.startsWith('IPE 160'))).toEqual(
        [...frames, ...frames, ...frames].sort(),
      );
      const half = copied(model(), {
          linked,
          distances: [5000],
          names: ['Frame C'],
          turned: { by: Math.PI, about: 'middle' },
        }),
        turned = ofType(half, 'plane').find((p) => p.name === 'Frame C')!;
      // Turned round it stands where it stood, and goes 5 m behind itself: to the other side.
      expect(turned.across.map((v) => Math.round(v) + 0)).toEqual([-1, 0, 0]);
      expect(turned.origin.map((v) => Math.round(v))[1]).toBe(-5000);
    },
  );

  it('linked copies follow when one of them is edited, and what meets the frame from outside goes on meeting it', () => {
    const m = copied(model()),
      eaves = (at: Model) => takeoff(at).members.find((r) => r.id === 'eaves')!.length,
      first = eaves(m);
    expect(get(m, 'member', 'eaves')!.joints![0].to).toMatch(/\/west$/);
    expect(first).toBeCloseTo(5000 - 7.1 / 2, 6);
    const [placed] = ofType(m, 'placed'),
      assembly = ofType(m, 'assembly')[0],
      opened = applyOrThrow(m, openedAssembly(m, placed, newId)!.change!);
    expect(doubts(opened)).toEqual([]);
    expect(eaves(opened)).toBeCloseTo(first, 6);
    const west = ofType(opened, 'member').find((e) => e.id === 'west')!,
      other = applyOrThrow(opened, setFields<Member>(west, { section: table('HEA 300') })!);
    expect(eaves(other)).toBeCloseTo(5000 - 8.5 / 2, 6);
    const closed = applyOrThrow(other, closedAssembly(other, get(other, 'assembly', assembly.id)!)!);
    expect(takeoff(closed).members.filter((r) => r.section === 'HEA 300')).toHaveLength(3);
    expect(eaves(closed)).toBeCloseTo(5000 - 8.5 / 2, 6);
    expect(doubts(closed)).toEqual([]);
    const left = applyOrThrow(other, leftAssembly(other, get(other, 'assembly', assembly.id)!)!);
    expect(eaves(left)).toBeCloseTo(first, 6);
    for (const apart of [
      applyOrThrow(
        closed,
        takenApart(
          closed,
          ofType(closed, 'placed').find((p) => p.id === placed.id)!,
          newId,
        ).change!,
      ),
      applyOrThrow(closed, removedAssembly(closed, get(closed, 'assembly', assembly.id)!, newId)!),
    ]) {
      expect(doubts(apart)).toEqual([]);
      expect(eaves(apart)).toBeCloseTo(5000 - 8.5 / 2, 6);
      expect(lengths(apart)).toEqual(lengths(closed));
    }
  });

  it('a frame that is a group already is placed again; mirrored it is the other way round about its middle', () => {
    const once = copied(model(), { distances: [5000], names: ['C'] }),
      again = copied(once, { distances: [8000], names: ['E'], mirrored: true });
    expect(ofType(again, 'assembly')).toHaveLength(1);
    expect(ofType(again, 'placed')).toHaveLength(3);
    const rafter = joinedFrame(again)
      .members.filter((m) => m.member.role === 'rafter')
      .at(-1)!;
    // It rises to the west now.
    expect(rafter.from[2]).toBeLessThan(rafter.to[2]);
    expect(rafter.from[0]).toBeGreaterThan(rafter.to[0]);
    expect(doubts(again)).toEqual([]);
  });

  it('finds the grid lines that run along it, before and behind, each once', () => {
    const grid = (id: string, name: string, from: [number, number], to: [number, number]): Entity => ({
      type: 'gridLine',
      id,
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
      from,
      to,
      name,
    });
    const m = modelOf([
      ...model().values(),
      grid('b', 'B', [-500, 0], [13000, 0]),
      grid('c', 'C', [13000, 5000], [0, 5000]),
      grid('c2', 'C', [0, 5000], [13000, 5000]),
      grid('a', 'A', [0, -4000], [13000, -4000]),
      grid('1', '1', [0, -500], [0, 9000]),
    ]);
    expect(gridsBehind(m, get(m, 'plane', 'side')!)).toEqual([
      { name: 'A', distance: -4000 },
      { name: 'C', distance: 5000 },
    ]);
  });

  it('says so where nothing is drawn', () => {
    const m = modelOf([...model().values()].filter((e) => e.type !== 'member'));
    expect(
      frameAlong(m, get(m, 'plane', 'side')!, {
        distances: [1],
        names: ['x'],
        linked: true,
        mirrored: false,
        newId,
      }),
    ).toContain('draw the frame first');
  });

  it('spacings are read as they are written, each from the one before', () => {
    const mm = (t: string) => (/^-?\d+(\.\d+)?$/.test(t) ? Number(t) : null);
    expect(spacings('5000', mm)).toEqual([5000]);
    expect(spacings('3x5000', mm)).toEqual([5000, 10000, 15000]);
    expect(spacings('5000 4500; 2 x 6000', mm)).toEqual([5000, 9500, 15500, 21500]);
    expect(spacings('-4000, -4000', mm)).toEqual([-4000, -8000]);
    expect(spacings(`2x16' 4 1/2"; 10'`, (t) => (t.startsWith('16') ? 4991.1 : 3048))).toEqual([
      4991.1, 9982.2, 13030.2,
    ]);
    for (const wrong of ['', 'x', '0', '5000 y', '999x1', '0x5'])
      expect(spacings(wrong, mm), wrong).toBeNull();
  });
});
