import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutWalls } from '@calque/core/building';
import { PlaneTrace, WallJoins } from '@calque/core/derive';
import {
  applyOrThrow,
  groundStorey,
  modelOf,
  setFields,
  type Wall,
  type WallAlignment,
} from '@calque/core/model';
import { wall } from './any-entity.ts';

/** Ends on a coarse grid, so that walls meet, cross, run into one another and lie on one another all the time. */
const coordinate = fc.integer({ min: 0, max: 4 }).map((n) => n * 900);
const point = fc.tuple(coordinate, coordinate).map(([x, y]): [number, number] => [x, y]);
const anyWall = fc.record({
  n: fc.nat(14),
  from: point,
  to: point,
  thickness: fc.constantFrom(100, 140, 365),
  alignment: fc.constantFrom<WallAlignment>('centre', 'left', 'right'),
});
type Given = typeof anyWall extends fc.Arbitrary<infer T> ? T : never;
const built = ({ n, ...w }: Given): Wall => ({ ...wall(`w${n}`), ...w });
const sorted = <T>(map: ReadonlyMap<string, T>) => [...map].sort(([a], [b]) => (a < b ? -1 : 1));

describe('walls that are followed one by one', () => {
  it('are cut as all of them would be cut at once, whichever come, go or move', () => {
    const step = fc.record({
      walls: fc.array(anyWall, { minLength: 1, maxLength: 3 }),
      gone: fc.option(fc.nat(14)),
    });
    fc.assert(
      fc.property(
        fc.array(anyWall, { minLength: 10, maxLength: 25 }),
        fc.array(step, { maxLength: 12 }),
        (first, steps) => {
          const joins = new WallJoins();
          const now = new Map(first.map((w) => [`w${w.n}`, built(w)]));
          joins.follow([...now.values()].map((w) => ({ id: w.id, now: w })));
          for (const { walls, gone } of steps) {
            const changes = new Map(walls.map((w) => [`w${w.n}`, built(w) as Wall | undefined]));
            if (gone !== null) changes.set(`w${gone}`, undefined);
            for (const [id, w] of changes)
              if (w) now.set(id, w);
              else now.delete(id);
            const before = joins.cut,
              was = new Map(before.bodies);
            const touched = joins.follow([...changes].map(([id, w]) => ({ id, now: w })));
            const all = cutWalls([...now.values()]);
            expect(sorted(joins.cut.bodies)).toEqual(sorted(all.bodies));
            expect(sorted(joins.cut.faces)).toEqual(sorted(all.faces));
            expect(sorted(joins.cut.wedges)).toEqual(sorted(all.wedges));
            // What is told as untouched is the very body that it was.
            for (const [id, body] of joins.cut.bodies)
              if (!touched.has(id)) expect(body, id).toBe(was.get(id));
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('what follows on a plane', () => {
  const model = modelOf([
    groundStorey('ground'),
    { ...wall('a'), from: [0, 0], to: [3000, 0] },
    { ...wall('b'), from: [3000, 0], to: [3000, 3000] },
    { ...wall('far'), from: [90000, 0], to: [99000, 0] },
    ...[1, 2, 3, 4].map((n): Wall => ({
      ...wall(`far${n}`),
      from: [90000, n * 5000],
      to: [99000, n * 5000],
    })),
  ]);

  it('tells what shows otherwise and what is only cut otherwise, and nothing of what stands far away', () => {
    const trace = new PlaneTrace('ground');
    expect(trace.follow(model, false).elements).toEqual(
      new Set(['a', 'b', 'far', 'far1', 'far2', 'far3', 'far4']),
    );
    expect(trace.follow(model, false)).toMatchObject({ anew: false, elements: new Set(), recut: new Set() });
    const far = trace.cut.bodies.get('far');
    const next = applyOrThrow(
      model,
      setFields<Wall>(model.get('a') as Wall, { from: [0, 500], to: [3000, 500] })!,
    );
    const followed = trace.follow(next, false);
    expect(followed.elements).toEqual(new Set(['a']));
    expect(followed.recut).toEqual(new Set(['b']));
    expect(trace.cut.bodies.get('far')).toBe(far);
    // And back to a state from before, as undo may bring.
    trace.follow(model, false);
    expect(sorted(trace.cut.bodies)).toEqual(sorted(cutWalls(model.ofType('wall') as Wall[]).bodies));
  });

  it('looks at no other plane', () => {
    const trace = new PlaneTrace('loft');
    trace.follow(model, false);
    expect(trace.elements.size).toBe(0);
    const next = applyOrThrow(model, setFields<Wall>(model.get('a') as Wall, { thickness: 200 })!);
    expect(trace.follow(next, false).elements.size).toBe(0);
  });
});
