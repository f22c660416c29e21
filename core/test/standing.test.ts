import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import * as WebIfc from 'web-ifc';
import { writeIfc } from '@calque/core/exchange';
import {
  applyOrThrow,
  forShelf,
  get,
  groundStorey,
  makeAssembly,
  modelOf,
  onOtherStorey,
  parseEntity,
  pastedWall,
  setFields,
  standing,
  standingOf,
  withoutStorey,
  type AtLevel,
  type Entity,
  type Model,
  type Storey,
  type Wall,
} from '@calque/core/model';
import { bodiesOf } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import { globalId } from '../src/exchange/ifc/guid.ts';
import { houseModel, rectangle, window } from './given-house.ts';
import { boxOf, ifcBodies } from './ifc-bodies.ts';
import { wall } from './given-walls.ts';

const storey = (id: string, elevation: number, height: number): Storey => ({
  ...groundStorey(id),
  name: id,
  elevation,
  height,
  heightAssumed: false,
});
const GROUND = storey('ground', 500, 3000),
  UPPER = storey('upper', 3500, 2800),
  LOFT = storey('loft', 6300, 2400);
const at = (storeyId: string | null, offset = 0): AtLevel => ({ storeyId, offset });
const model = (...more: Entity[]): Model =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 1 },
    GROUND,
    UPPER,
    LOFT,
    ...more,
  ]);
const w = (more: Partial<Wall> = {}) => wall('w', [0, 0], [4000, 0], more);
/** From where to where a wall reaches in the building, by its solid. */
const reach = (m: Model, id = 'w') => {
  const body = bodiesOf(m).find((b) => b.element.id === id)!,
    box = boxOf([...body.mesh().triangles]);
  return [box[4] + body.lift, box[5] + body.lift];
};

describe('a wall between levels', () => {
  it.each([
    ['its own floor and height', {}, [500, 3200]],
    ['a foot below its floor: its height is above its foot', { base: at(null, -300) }, [200, 2900]],
    ['up to the height of its storey', { top: at(null) }, [500, 3500]],
    ['up to another storey, less a slab', { top: at('loft', -250) }, [500, 6050]],
    ['from one level to another', { base: at('upper', 100), top: at('loft', 50) }, [3600, 6350]],
    ['from a foot of its own up to a level', { base: at(null, -300), top: at('upper') }, [200, 3500]],
  ] as const)('%s', (_, fields, expected) => {
    const m = model(w(fields)),
      row = takeoff(m).walls[0];
    expect(reach(m)).toEqual(expected);
    expect([row.base, row.base + row.height]).toEqual(expected);
    expect(row.volume).toBeCloseTo((4 * 0.2 * (expected[1] - expected[0])) / 1000, 9);
    expect(row.area).toBeCloseTo((4 * (expected[1] - expected[0])) / 1000, 9);
    expect(standingOf(m, w(fields)).doubt).toBeNull();
  });

  it('follows its levels as they change, and is the same wall where nothing does', () => {
    const given = w({ base: at(null, -100), top: at('upper', 20) }),
      m = model(given),
      higher = applyOrThrow(m, setFields(UPPER, { elevation: 4000 })!);
    expect(reach(m)).toEqual([400, 3520]);
    expect(reach(higher)).toEqual([400, 4020]);
    expect(standing(m, given)).toBe(standing(m, given));
    expect(standing(m, w())).toEqual(w());
  });

  it('keeps its own height where a level is gone, or lies below its foot, and says why', () => {
    for (const [fields, expected, words] of [
      [{ top: at('nowhere') }, [500, 3200], 'level of its top is not there'],
      [{ base: at('nowhere', 900) }, [500, 3200], 'level of its foot is not there'],
      [{ base: at('loft'), top: at('upper') }, [6300, 9000], 'below its foot'],
      [{ base: at('upper', 100), top: at('upper', 100.5) }, [3600, 6300], 'below its foot'],
    ] as const) {
      const m = model(w(fields));
      expect(reach(m)).toEqual(expected);
      expect(standingOf(m, w(fields)).doubt).toContain(words);
    }
  });

  it('rests on what is assumed where a storey below its top has a height that nobody confirmed', () => {
    const unsure = { ...UPPER, heightAssumed: true },
      m = model(w({ top: at('loft') }), wall('low', [0, 900], [4000, 900], { top: at('upper') }), unsure);
    expect(takeoff(m).walls.map((r) => [r.id, r.assumed])).toEqual([
      ['w', ['height']],
      ['low', []],
    ]);
  });

  it('openings stay where they are above the floor, wherever the foot of their wall is; they are cut off at it', () => {
    const openings = [window('o', [1000, 0], [2000, 0], { sill: 900, head: 2100 })],
      net = (fields: Partial<Wall>) => takeoff(model(w({ openings, ...fields }))).walls[0].net;
    expect(net({})).toBeCloseTo(4 * 2.7 - 1.2, 9);
    expect(net({ base: at(null, -300), top: at(null) })).toBeCloseTo(4 * 3.3 - 1.2, 9);
    expect(net({ base: at(null, 1500), top: at(null) })).toBeCloseTo(4 * 1.5 - 0.6, 9);
    const m = model(w({ openings, base: at(null, 1500), top: at(null) }));
    expect(takeoff(m).walls[0].volume).toBeCloseTo(0.2 * (4 * 1.5 - 0.6), 9);
    expect(takeoff(m).openings[0]).toMatchObject({ sill: 900, height: 1200 });
  });

  it('a room sees of its walls what stands between its floor and its ceiling', () => {
    const corners = rectangle(0, 0, 4000, 3000),
      walls = (fields: Partial<Wall>) =>
        corners.map((p, i) => wall(`w${i}`, p, corners[(i + 1) % 4], { alignment: 'left', ...fields })),
      sides = (fields: Partial<Wall>) =>
        takeoff(model(...walls(fields)))
          .spaces[0].boundaries.filter((b) => b.side === 'wall')
          .map((b) => Math.round(b.gross * 1e6) / 1e6)
          .sort((a, b) => a - b);
    expect(sides({})).toEqual([8.1, 8.1, 10.8, 10.8]);
    for (const fields of [{ base: at(null, -500), top: at('loft') }, { top: at(null) }])
      expect(sides(fields)).toEqual([9, 9, 12, 12]);
    expect(sides({ base: at(null, 2000), top: at('loft') })).toEqual([3, 3, 4, 4]);
  });

  it('under a roof it stands from its foot up to that', () => {
    const house = houseModel(),
      gable = get(house, 'wall', 'loft-west')!,
      before = takeoff(house).walls.find((r) => r.id === gable.id)!,
      lower = applyOrThrow(house, setFields<Wall>(gable, { base: at(null, -400) })!),
      after = takeoff(lower).walls.find((r) => r.id === gable.id)!;
    expect(after.area - before.area).toBeCloseTo(6 * 0.4, 9);
    expect(reach(lower, gable.id)[0]).toBeCloseTo(reach(house, gable.id)[0] - 400, 6);
    expect(reach(lower, gable.id)[1]).toBeCloseTo(reach(house, gable.id)[1], 6);
  });
});

describe('levels of walls that go elsewhere', () => {
  const levels = fc.record({
    base: fc.option(
      fc.record({
        storeyId: fc.constantFrom(null, 'ground', 'upper'),
        offset: fc.integer({ min: -500, max: 500 }),
      }),
    ),
    top: fc.option(
      fc.record({
        storeyId: fc.constantFrom(null, 'upper', 'loft'),
        offset: fc.integer({ min: -500, max: 500 }),
      }),
    ),
  });
  const hasAll = (m: Model, x: Wall) => standingOf(m, x).doubt === null;

  it('a storey that is taken away leaves every wall where it stood', () => {
    fc.assert(
      fc.property(levels, fc.constantFrom(UPPER, LOFT), (fields, gone) => {
        const m = model(w(fields));
        fc.pre(hasAll(m, w(fields)));
        const after = applyOrThrow(m, withoutStorey(m, gone)!);
        expect(after.has(gone.id)).toBe(false);
        expect(reach(after)).toEqual(reach(m));
        expect(hasAll(after, get(after, 'wall', 'w')!)).toBe(true);
      }),
    );
  });

  it('copied a storey up it names levels a storey up; above the last its height stays', () => {
    const even = modelOf([GROUND, UPPER, { ...LOFT, elevation: 6500 }].map((s) => ({ ...s, height: 3000 })));
    const reaches = (x: Wall) => {
      const { foot, height, doubt } = standingOf(even, x);
      return [foot, height, doubt];
    };
    for (const fields of [
      { top: at(null, -50) },
      { top: at('upper', -50) },
      { top: at('loft', -50) },
      { base: at('upper', 300), top: at('loft') },
      { base: at(null, -300) },
    ])
      expect(reaches(onOtherStorey(even, w(fields), 'upper')), JSON.stringify(fields)).toEqual(
        reaches(w(fields)),
      );
    expect(onOtherStorey(even, w({ top: at('upper') }), 'upper').top).toEqual(at('loft'));
    expect(onOtherStorey(even, w({ top: at('loft') }), 'upper').top).toBeNull();
  });

  it('pasted where its levels are not known it has the height that it was copied with', () => {
    const other = modelOf([storey('elsewhere', 0, 2500)]),
      copied = { ...w({ base: at('upper', 100), top: at('loft') }), height: 2700 };
    expect(pastedWall(other, copied, 'elsewhere')).toMatchObject({
      base: null,
      top: null,
      height: 2700,
      planeId: 'elsewhere',
    });
    expect(pastedWall(other, w({ top: at(null, 30) }), 'elsewhere').top).toEqual(at(null, 30));
  });

  it('in a group it stands by the storey on which the group is placed; on the shelf it names no storey', () => {
    const given = w({ base: at(null, -200), top: at('loft', 10) }),
      m = model(given),
      grouped = applyOrThrow(
        m,
        makeAssembly(m, [given], { id: 'g', placedId: 'p', name: 'Bay', base: [0, 0] })!,
      );
    expect(takeoff(grouped).walls[0]).toMatchObject({ base: 300, height: 6010 });
    const kept = forShelf(get(grouped, 'assembly', 'g')!, 'fresh');
    expect('elements' in kept && kept.elements[0]).toMatchObject({ base: at(null, -200), top: null });
    const gone = applyOrThrow(grouped, withoutStorey(grouped, LOFT)!);
    expect(get(gone, 'assembly', 'g')!.elements[0]).toMatchObject({ base: at(null, -200), top: null });
  });

  it('what is no level is refused at the door', () => {
    expect(parseEntity(w({ base: at('upper', 1), top: at(null) }))).toBeDefined();
    for (const wrong of [{ storeyId: 'upper' }, { offset: 3 }, at('no id!'), at(null, NaN), 7, [at(null)]])
      expect(() => parseEntity({ ...w(), base: wrong })).toThrow();
  });
});

describe('in IFC', () => {
  const api = new WebIfc.IfcAPI();
  beforeAll(async () => {
    await api.Init();
  });
  it.each(['editable', 'reference'] as const)('%s: it stands where it stands here, door and all', (view) => {
    const door = window('d', [1000, 0], [2000, 0], { kind: 'door', leaves: 1, sill: 0, head: 2100 }),
      m = model(w({ base: at(null, -300), top: at('upper', 200), openings: [door] })),
      text = writeIfc(m, { view, at: '2026-11-30T12:00:00', projectKey: 'a1' }),
      id = api.OpenModel(new TextEncoder().encode(text)),
      bodies = ifcBodies(api, id),
      there = bodies.get(globalId('a1/w'))!,
      leaf = bodies.get(globalId('a1/w.d'))!;
    expect(there.box.slice(4).map(Math.round)).toEqual(reach(m));
    expect(there.volume / 1e9).toBeCloseTo(takeoff(m).walls[0].volume, 6);
    expect(leaf.box.slice(4).map(Math.round)).toEqual([500, 2600]);
    api.CloseModel(id);
  });
});
