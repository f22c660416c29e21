import fc from 'fast-check';
import { expect, it, vi } from 'vitest';
import {
  apply,
  isTraced,
  modelOf,
  removeElements,
  replaced,
  withGrip,
  type Change,
  type Dimension,
  type Entity,
  type Model,
} from '@calque/core/model';
import { TraceCache } from '../src/table/trace-cache.ts';
import { line, wall } from './given-table.ts';

vi.stubGlobal(
  'Worker',
  class {
    postMessage(): void {}
    terminate(): void {}
  },
);

it('the trace that follows edits one by one is the trace made anew', () => {
  const base = {
    planeId: 'ground',
    source: { underlayId: null, ends: 'typed', thickness: 'typed' } as const,
  };
  const first: Entity[] = [
    line('a', [0, 0], [900, 0]),
    line('b', [0, 300], [900, 300]),
    wall('w', [0, 2000], [3000, 2000]),
    wall('v', [3000, 2000], [3000, 5000]),
    { type: 'arc', id: 'c', ...base, centre: [500, 900], radius: 200, start: 0, sweep: 4 },
    {
      type: 'dimension',
      id: 'd',
      ...base,
      measures: 'aligned',
      points: [
        [0, 0],
        [900, 0],
      ],
      on: [
        { id: 'a', grip: 0 },
        { id: 'b', grip: 1 },
      ],
      at: [0, -200],
      height: 100,
    } satisfies Dimension,
    {
      type: 'assembly',
      id: 'g',
      name: 'G',
      elements: [line('ga', [0, 0], [400, 300]), wall('gw', [0, 0], [0, 900])],
    },
    { type: 'placed', id: 'p', ...base, assemblyId: 'g', placement: [0, 1, -1, 0, 1500, 2000] },
  ];
  const step = fc.record({
    kind: fc.constantFrom('grip', 'grip', 'grip', 'add', 'remove'),
    which: fc.nat(99),
    look: fc.boolean(),
    to: fc.tuple(fc.nat(4000), fc.nat(4000)),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 15 }), (steps) => {
      const cache = new TraceCache(() => {});
      let model: Model = modelOf(first);
      steps.forEach(({ kind, which, look, to }, n) => {
        const all = [...model.values()].filter(isTraced),
          e = all[which % all.length];
        const moved = e && kind === 'grip' ? withGrip(e, 0, to) : null;
        const change: Change | null =
          kind === 'add' || !e
            ? { type: 'add', entity: line(`n${n}`, to, [to[0] + 100, to[1]]) }
            : kind === 'remove'
              ? removeElements(model, [e])
              : moved && replaced(e, moved);
        const applied = change && apply(model, change);
        if (applied?.ok) model = applied.model;
        const followed = cache.of(model, 'ground'),
          anew = new TraceCache(() => {}).of(model, 'ground');
        expect([...followed.elements.values()]).toEqual([...anew.elements.values()]);
        expect(followed.walls).toEqual(anew.walls);
        expect(followed.cut).toEqual(anew.cut);
        // Nobody may have picked yet: the index is then made of what there is later.
        if (!look && n + 1 < steps.length) return;
        for (const [x, y] of [to, [0, 0], [3000, 2000], [1200, 2400]]) {
          const found = (t: typeof followed) =>
            t.index.snapper
              .query(x, y, 150)
              .map((c) => `${c.kind} ${c.x} ${c.y}`)
              .sort();
          expect(found(followed)).toEqual(found(anew));
        }
      });
    }),
    { numRuns: 120 },
  );
});

it('an open boundary that comes, moves or goes is looked at anew; a line that does leaves the rooms as they are', () => {
  const start = modelOf([wall('w', [0, 2000], [3000, 2000]), line('a', [0, 0], [900, 0])] as Entity[]),
    cache = new TraceCache(() => {});
  const step = (model: Model, change: Change): Model => {
    const done = apply(model, change);
    if (!done.ok) throw new Error('it does not apply');
    return done.model;
  };
  const boundary = { ...line('o', [0, 0], [0, 2000]), type: 'openBoundary' } as Entity;
  const first = cache.of(start, 'ground');
  first.rooms = [];
  const moved = step(start, replaced(line('a', [0, 0], [900, 0]), line('a', [0, 0], [800, 0]))!);
  expect(cache.of(moved, 'ground').rooms).toBe(first.rooms);
  const added = step(moved, { type: 'add', entity: boundary });
  expect(cache.of(added, 'ground')).toMatchObject({ rooms: null, open: [{ id: 'o' }] });
  cache.of(added, 'ground').rooms = [];
  const gone = step(added, { type: 'remove', entity: boundary });
  expect(cache.of(gone, 'ground')).toMatchObject({ rooms: null, open: [] });
});

it('what is put away is no part of the trace, what is drawn meanwhile is, and all comes back', () => {
  const drawn = {
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' } as const,
    },
    cache = new TraceCache(() => {}),
    shown = (model: Model) => [...cache.of(model, 'ground').elements.keys()].sort(),
    first = modelOf([
      line('a', [0, 0], [900, 0]),
      line('b', [0, 300], [900, 300]),
      { type: 'constructionLine', id: 'c', ...drawn, from: [0, 0], to: [900, 900] },
    ]);
  expect(shown(first)).toEqual(['a', 'b', 'c']);
  cache.putAway({ ids: new Set(['b']), construction: true });
  expect(shown(first)).toEqual(['a']);
  const next = apply(first, { type: 'add', entity: line('d', [0, 600], [900, 600]) });
  if (!next.ok) throw new Error();
  expect(shown(next.model)).toEqual(['a', 'd']);
  cache.putAway(null);
  expect(shown(next.model)).toEqual(['a', 'b', 'c', 'd']);
});
