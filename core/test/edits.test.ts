import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TAU, type Point, type Transform } from '@calque/core/geometry';
import {
  apply,
  copiesOf,
  gripsOf,
  group,
  measuredBy,
  modelOf,
  movedBy,
  parseEntity,
  removeElements,
  replaced,
  rested,
  stretched,
  withGrip,
  type Change,
  type Dimension,
  type Entity,
  type Model,
  type Pair,
  type Traced,
} from '@calque/core/model';
import { base, place, element, similarity, near } from './given-elements.ts';

describe('edits and their inverses', () => {
  const ids = ['a', 'b', 'c', 'd', 'e'];
  const drawing = fc.tuple(...ids.map((id) => element(id)));
  type Step = {
    kind: 'move' | 'remove' | 'copy' | 'grip' | 'layer';
    which: number;
    map: Transform;
    to: Pair;
  };
  const step: fc.Arbitrary<Step> = fc.record({
    kind: fc.constantFrom('move', 'remove', 'copy', 'grip', 'layer'),
    which: fc.nat(50),
    map: similarity,
    to: place,
  });
  const changeOf = (model: Model, s: Step, n: number): Change | null => {
    const all = [...model.values()] as Traced[];
    if (all.length === 0) return null;
    const e = all[s.which % all.length];
    if (s.kind === 'move')
      return group(all.filter((_, i) => (i + s.which) % 2 === 0).map((x) => replaced(x, movedBy(x, s.map))));
    if (s.kind === 'remove') return removeElements(model, [e]);
    if (s.kind === 'copy')
      return group(copiesOf([e], () => `n${n}`, model).map((entity): Change => ({ type: 'add', entity })));
    if (s.kind === 'layer') return replaced(e, { ...e, layerId: `l${n}` });
    const moved = withGrip(e, s.which % gripsOf(e).length, s.to);
    return moved && replaced(e, moved);
  };
  it('give back the identical project, for random rows of them, however far it went', () => {
    fc.assert(
      fc.property(drawing, fc.array(step, { maxLength: 12 }), (elements, steps) => {
        const dimension: Dimension = {
          type: 'dimension',
          ...base('dim'),
          measures: 'aligned',
          points: [gripsOf(elements[0])[0], gripsOf(elements[1])[0]],
          on: [
            { id: 'a', grip: 0 },
            { id: 'b', grip: 0 },
          ],
          at: [0, 0],
          height: 100,
        };
        const first = modelOf([...elements, dimension] as Entity[]);
        let model: Model = first;
        const inverses: Change[] = [];
        steps.forEach((s, n) => {
          const change = changeOf(model, s, n),
            applied = change && apply(model, change);
          if (!applied?.ok) return;
          model = applied.model;
          inverses.push(applied.inverse);
        });
        for (const inverse of inverses.reverse()) {
          const applied = apply(model, inverse);
          expect(applied.ok).toBe(true);
          if (applied.ok) model = applied.model;
        }
        // What was absent comes back as null, which means the same; all else to the last bit, as it is stored.
        const plain = (m: Model) =>
          JSON.stringify(
            [...m.values()]
              .sort((x, y) => (x.id < y.id ? -1 : 1))
              .map((e) =>
                Object.fromEntries(
                  Object.entries(e)
                    .filter(([, v]) => v !== null)
                    .sort(([x], [y]) => (x < y ? -1 : 1)),
                ),
              ),
          );
        expect(plain(model)).toBe(plain(first));
      }),
      { numRuns: 200 },
    );
  });
  it('what a dimension rests on may go: it keeps its points, and comes back resting on it', () => {
    const line: Traced = { type: 'line', ...base('l'), from: [0, 0], to: [1000, 0] };
    const d: Dimension = {
      type: 'dimension',
      ...base('d'),
      measures: 'aligned',
      points: [
        [0, 0],
        [9, 9],
      ],
      on: [
        { id: 'l', grip: 0 },
        { id: 'l', grip: 1 },
      ],
      at: [500, 200],
      height: 100,
    };
    const model = modelOf([line, d]);
    const gone = apply(model, removeElements(model, [line])!);
    expect(gone.ok && gone.model.get('d')).toMatchObject({
      points: [
        [0, 0],
        [1000, 0],
      ],
      on: [null, null],
    });
    const back = gone.ok && apply(gone.model, gone.inverse);
    expect(back && back.ok && back.model.get('d')).toEqual(d);
    const [lineCopy, dimensionCopy] = copiesOf<Traced>(
      [line, d],
      (() => {
        let n = 0;
        return () => `copy${n++}`;
      })(),
      model,
    ) as [Traced, Dimension];
    expect(dimensionCopy.on).toEqual([
      { id: lineCopy.id, grip: 0 },
      { id: lineCopy.id, grip: 1 },
    ]);
    expect(measuredBy(rested(d, model))).toBe(1000);
  });
});

describe('stretching', () => {
  const ring: Pair[] = [
    [0, 0],
    [1000, 0],
    [1000, 500],
    [0, 500],
  ];
  const right = (p: Point) => p[0] >= 900;
  it('moves the points that the box holds and leaves the others, also by just the length of a side', () => {
    const path: Traced = { type: 'path', ...base('p'), points: ring, bulges: [0, 0, 0, 0], closed: true };
    expect(stretched(path, right, [250, 0])).toMatchObject({
      points: [
        [0, 0],
        [1250, 0],
        [1250, 500],
        [0, 500],
      ],
    });
    // The lower corner lands where the upper one was: that is moved as well.
    expect(stretched(path, right, [0, 500])).toMatchObject({
      points: [
        [0, 0],
        [1000, 500],
        [1000, 1000],
        [0, 500],
      ],
    });
    expect(stretched(path, right, [-1000, 0])).toBeNull();
    expect(stretched(path, () => false, [250, 0])).toBe(path);
  });
  it('takes an arc along by its end, as a whole by both, a circle by its centre', () => {
    const arc: Traced = {
      type: 'arc',
      ...base('a'),
      centre: [0, 0],
      radius: 1000,
      start: 0,
      sweep: Math.PI / 2,
    };
    const bent = stretched(arc, right, [0, -200])!;
    expect(near(gripsOf(bent)[0], [1000, -200], 1e-6) && near(gripsOf(bent)[1], [0, 1000], 1e-6)).toBe(true);
    expect(stretched(arc, () => true, [10, 20])).toMatchObject({ centre: [10, 20], radius: 1000 });
    const circle: Traced = { type: 'arc', ...base('c'), centre: [0, 0], radius: 1000, start: 0, sweep: TAU };
    expect(stretched(circle, right, [0, 9])).toBe(circle);
  });
  it('by nothing and back again gives what it was, whatever it is', () => {
    fc.assert(
      fc.property(
        element('e'),
        fc.double({ min: -4000, max: 4000, noNaN: true }),
        fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: -900, max: 900 }),
        (e, x, dx, dy) => {
          const held = new Set(
            gripsOf(e)
              .filter((p) => p[0] > x)
              .map((p) => p.join()),
          );
          if (e.type === 'arc') return;
          const there = stretched(e, (p) => held.has(p.join()), [dx, dy]);
          if (!there) return;
          expect(() => parseEntity(JSON.parse(JSON.stringify(there)))).not.toThrow();
          gripsOf(there).forEach((g, i) =>
            expect(
              near(
                g,
                held.has(gripsOf(e)[i].join())
                  ? [gripsOf(e)[i][0] + dx, gripsOf(e)[i][1] + dy]
                  : gripsOf(e)[i],
                1e-9,
              ),
            ).toBe(true),
          );
        },
      ),
      { numRuns: 300 },
    );
  });
});
