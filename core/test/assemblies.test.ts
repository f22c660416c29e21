import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wallSchedule } from '@calque/core/building';
import { drawingOfModel } from '@calque/core/exchange';
import {
  compose,
  mirrorIn,
  rotationAbout,
  scalingAbout,
  translation,
  unionBox,
  type Transform,
} from '@calque/core/geometry';
import {
  apply,
  boxOf,
  closedAssembly,
  get,
  gripsOf,
  groundStorey,
  leftAssembly,
  looseElements,
  looseOf,
  makeAssembly,
  modelOf,
  movedBy,
  openAssembly,
  openedAssembly,
  ownerId,
  parseEntity,
  partsOf,
  piecesOf,
  placedOf,
  removedAssembly,
  shownOf,
  storedTransform,
  takenApart,
  type Assembly,
  type Change,
  type Dimension,
  type Line,
  type Loose,
  type Model,
  type Pair,
  type Placed,
  type Traced,
  type Wall,
} from '@calque/core/model';

const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;
const base = (id: string) => ({ id, planeId: 'ground', source });
const line = (id: string, from: Pair, to: Pair): Line => ({ type: 'line', ...base(id), from, to });
const wall = (id: string, from: Pair, to: Pair): Wall => ({
  type: 'wall',
  ...base(id),
  from,
  to,
  thickness: 100,
  alignment: 'left',
  height: 2700,
  heightAssumed: true,
});
const bench: Loose[] = [
  line('a', [1000, 1000], [3000, 1000]),
  wall('w', [1000, 1000], [1000, 1600]),
  { type: 'arc', ...base('c'), centre: [2000, 1300], radius: 200, start: 0, sweep: Math.PI },
  { type: 'text', ...base('t'), at: [1200, 1200], angle: 0, height: 125, text: 'Bench' },
  {
    type: 'dimension',
    ...base('d'),
    measures: 'aligned',
    points: [
      [1000, 1000],
      [3000, 1000],
    ],
    on: [
      { id: 'a', grip: 0 },
      { id: 'a', grip: 1 },
    ],
    at: [2000, 800],
    height: 125,
  },
];
let made = 0;
const newId = () => `n${++made}`;
const done = (model: Model, change: Change | null): Model => {
  if (!change) throw new Error('nothing to do');
  const applied = apply(model, change);
  if (!applied.ok) throw new Error(applied.refusal.code);
  // Whatever a group does is undone to the same project.
  const back = apply(applied.model, applied.inverse);
  expect(back.ok && [...back.model.keys()].sort()).toEqual([...model.keys()].sort());
  for (const e of applied.model.values())
    expect(() => parseEntity(JSON.parse(JSON.stringify(e)))).not.toThrow();
  return applied.model;
};
const given = (elements: readonly Traced[] = bench) =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
    groundStorey('ground'),
    ...elements,
  ]);
const grouped = (): Model =>
  done(given(), makeAssembly(given(), bench, { id: 'g', placedId: 'p', name: 'Bench', base: [1000, 1000] }));
const put = (model: Model, id: string, map: Transform): Model =>
  done(model, {
    type: 'add',
    entity: { type: 'placed', ...base(id), assemblyId: 'g', placement: storedTransform(map) },
  });
/** What is drawn, without ids and the order in which it came. */
const drawn = (model: Model) =>
  looseElements(model)
    .map((e) =>
      JSON.stringify(
        piecesOf(e).map((p) =>
          JSON.parse(
            JSON.stringify(p, (_, v: unknown) => (typeof v === 'number' ? Math.round(v * 1e6) / 1e6 + 0 : v)),
          ),
        ),
      ),
    )
    .sort();

describe('a group', () => {
  it('shows just what it was made of, in its place, with one grip by which it was to be placed', () => {
    const model = grouped(),
      placed = get(model, 'placed', 'p')!;
    expect(drawn(model)).toEqual(drawn(given()));
    expect(gripsOf(placed)).toEqual([[1000, 1000]]);
    const shown = shownOf(placed, model);
    expect(boxOf(shown)).toEqual(bench.map(boxOf).reduce(unionBox));
    expect(looseOf(shown).map((e) => ownerId(e.id))).toEqual(['p', 'p', 'p', 'p', 'p']);
    // Asked again it is the same object, so that nothing of it is made anew.
    expect(shownOf(placed, model)).toBe(shown);
    // What shows is never stored.
    expect(Object.keys(JSON.parse(JSON.stringify(shown)) as object)).not.toContain('members');
  });
  it('placed again is turned, mirrored and scaled; walls keep their thickness and are scheduled and drawn', () => {
    const model = put(
      grouped(),
      'q',
      compose(translation(9000, 0), compose(rotationAbout(Math.PI / 2, [0, 0]), scalingAbout(2, [0, 0]))),
    );
    const q = looseOf(shownOf(get(model, 'placed', 'q')!, model));
    expect(q.find((e): e is Line => e.type === 'line')).toMatchObject({
      from: [expect.closeTo(9000, 6), expect.closeTo(0, 6)],
      to: [expect.closeTo(9000, 6), expect.closeTo(4000, 6)],
    });
    expect(q.find((e): e is Wall => e.type === 'wall')).toMatchObject({ thickness: 100, alignment: 'left' });
    expect(wallSchedule(model).map((r) => Math.round(r.length))).toEqual([600, 1200]);
    const shapes = drawingOfModel(model).shapes;
    expect(shapes.filter((s) => s.kind === 'arc')).toHaveLength(2);
    const mirrored = put(grouped(), 'm', mirrorIn([0, 0], [0, 1])!);
    expect(
      looseOf(shownOf(get(mirrored, 'placed', 'm')!, mirrored)).find((e): e is Wall => e.type === 'wall')
        ?.alignment,
    ).toBe('right');
  });
  it('moved as it shows, it moves as what it shows does', () => {
    const similarity = fc
      .tuple(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.integer({ min: -9000, max: 9000 }),
        fc.boolean(),
      )
      .map(([angle, k, x, flip]) =>
        compose(
          translation(x, -x),
          compose(
            rotationAbout(angle, [0, 0]),
            compose(scalingAbout(k, [0, 0]), flip ? mirrorIn([0, 0], [1, 0])! : translation(0, 0)),
          ),
        ),
      );
    fc.assert(
      fc.property(similarity, similarity, (first, map) => {
        const model = put(grouped(), 'q', first),
          shown = shownOf(get(model, 'placed', 'q')!, model);
        const after = movedBy(shown, map),
          again = looseOf(shownOf(JSON.parse(JSON.stringify(after)) as Placed, model));
        expect(looseOf(after)).toHaveLength(5);
        looseOf(after).forEach((e, i) =>
          boxOf(e).forEach((v, k) => expect(v).toBeCloseTo(boxOf(again[i])[k], 4)),
        );
      }),
      { numRuns: 100 },
    );
  });
  it('edited in one place changes in all; its dimension rests on its own line there', () => {
    let model = put(grouped(), 'q', translation(20000, 0));
    const opened = openedAssembly(model, get(model, 'placed', 'p')!, newId)!;
    model = done(model, opened.change);
    expect(openAssembly(model)?.id).toBe('g');
    const free = opened.elements.find((e): e is Line => e.type === 'line')!;
    const dimension = opened.elements.find((e): e is Dimension => e.type === 'dimension')!;
    expect(dimension.on).toEqual([
      { id: free.id, grip: 0 },
      { id: free.id, grip: 1 },
    ]);
    model = done(model, { type: 'set', id: free.id, before: { to: free.to }, after: { to: [4000, 1000] } });
    model = done(model, { type: 'add', entity: { ...line('new', [1000, 1600], [4000, 1600]), part: 'g' } });
    expect(partsOf(model, get(model, 'assembly', 'g')!)).toHaveLength(6);
    model = done(model, closedAssembly(model, get(model, 'assembly', 'g')!));
    expect(openAssembly(model)).toBeNull();
    for (const [id, x, y] of [
      ['p', 0, 0],
      ['q', 19000, -1000],
    ] as const) {
      const members = looseOf(shownOf(get(model, 'placed', id)!, model));
      expect(members).toHaveLength(6);
      expect(members.find((e): e is Line => e.type === 'line')!.to).toEqual([4000 + x, 1000 + y]);
      expect(members.find((e): e is Dimension => e.type === 'dimension')!.points[1]).toEqual([
        4000 + x,
        1000 + y,
      ]);
    }
    expect(looseElements(model).some((e) => e.part)).toBe(false);
  });
  it('left as it was is as it was; with nothing left of it editing does not end', () => {
    const before = grouped();
    const opened = openedAssembly(before, get(before, 'placed', 'p')!, newId)!;
    let model = done(before, opened.change);
    for (const e of opened.elements)
      model = done(model, { type: 'remove', entity: model.get(e.id) as Traced });
    expect(closedAssembly(model, get(model, 'assembly', 'g')!)).toBeNull();
    model = done(model, leftAssembly(model, get(model, 'assembly', 'g')!));
    expect(drawn(model)).toEqual(drawn(before));
  });
  it('taken apart or removed leaves its elements where they were, free', () => {
    const model = put(grouped(), 'q', translation(20000, 0)),
      all = drawn(model);
    const apart = done(model, takenApart(model, get(model, 'placed', 'p')!, newId).change);
    expect(drawn(apart)).toEqual(all);
    expect(placedOf(apart, get(apart, 'assembly', 'g')!).map((p) => p.id)).toEqual(['q']);
    const removed = done(model, removedAssembly(model, get(model, 'assembly', 'g')!, newId));
    expect(drawn(removed)).toEqual(all);
    expect([...removed.values()].some((e) => e.type === 'placed' || e.type === 'assembly')).toBe(false);
  });
  it('made of a placed group holds its elements, not the group', () => {
    const model = grouped(),
      of = [get(model, 'placed', 'p')!];
    const nested = done(
      model,
      makeAssembly(model, of, { id: 'h', placedId: 'ph', name: 'Pair', base: [0, 0] }),
    );
    expect(get(nested, 'assembly', 'h')!.elements.map((e) => e.type)).toEqual(bench.map((e) => e.type));
    expect(drawn(nested)).toEqual(drawn(model));
  });
  it('is refused where it holds what is no element, a group, or nothing', () => {
    const assembly = get(grouped(), 'assembly', 'g')!;
    const bad = (elements: unknown[]): Assembly => ({ ...assembly, elements: elements as Loose[] });
    for (const elements of [
      [],
      [{ type: 'storey' }],
      [{ ...bench[0], from: [0, 'x'] }],
      [{ type: 'placed', ...base('x'), assemblyId: 'g', placement: [1, 0, 0, 1, 0, 0] }],
    ])
      expect(() => parseEntity(bad(elements))).toThrow(/elements/);
    expect(() => parseEntity({ ...get(grouped(), 'placed', 'p')!, placement: [0, 0, 0, 0, 1, 1] })).toThrow(
      /no area/,
    );
  });
});
