import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EntityMap, isTraced, modelOf, type Changed, type Entity, type Traced } from '@calque/core/model';
import { wall } from './any-entity.ts';

const line = (id: string, planeId: string, x: number): Traced => ({
  type: 'line',
  id,
  planeId,
  from: [0, 0],
  to: [x, 1],
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});
type Act = { do: 'set' | 'delete'; n: number; plane: string; kind: 'wall' | 'line'; x: number };
const act: fc.Arbitrary<Act> = fc.record({
  do: fc.constantFrom('set', 'set', 'set', 'delete'),
  n: fc.nat(40),
  plane: fc.constantFrom('ground', 'loft'),
  kind: fc.constantFrom('wall', 'line'),
  x: fc.integer({ min: 1, max: 5 }),
});
const entityOf = ({ n, plane, kind, x }: Act): Entity =>
  kind === 'wall' ? { ...wall(`e${n}`, x), planeId: plane } : line(`e${n}`, plane, x);

/** The same acts on a plain map, which is right by itself. */
const plain = (acts: readonly Act[], from: ReadonlyMap<string, Entity>) => {
  const map = new Map(from);
  for (const a of acts)
    if (a.do === 'set') map.set(`e${a.n}`, entityOf(a));
    else map.delete(`e${a.n}`);
  return map;
};
const edited = (acts: readonly Act[], from: EntityMap) => {
  const edit = from.edit();
  for (const a of acts)
    if (a.do === 'set') edit.set(`e${a.n}`, entityOf(a));
    else edit.delete(`e${a.n}`);
  return edit.done();
};

describe('entities that are never changed in place', () => {
  it('are what a plain map would hold, in its order, at every step; and the states before stay as they were', () => {
    fc.assert(
      fc.property(fc.array(fc.array(act, { maxLength: 12 }), { maxLength: 8 }), (steps) => {
        const states: { own: EntityMap; map: Map<string, Entity> }[] = [
          { own: EntityMap.EMPTY, map: new Map() },
        ];
        for (const acts of steps) {
          const { own, map } = states.at(-1)!;
          states.push({ own: edited(acts, own), map: plain(acts, map) });
        }
        for (const { own, map } of states) {
          expect([...own.values()]).toEqual([...map.values()]);
          expect([own.size, [...own.keys()]]).toEqual([map.size, [...map.keys()]]);
          for (let n = 0; n <= 40; n++) {
            expect(own.get(`e${n}`)).toEqual(map.get(`e${n}`));
            expect(own.has(`e${n}`)).toBe(map.has(`e${n}`));
          }
          expect(own.ofType('wall')).toEqual([...map.values()].filter((e) => e.type === 'wall'));
          for (const plane of ['ground', 'loft'])
            expect(own.onPlane(plane)).toEqual(
              [...map.values()].filter((e) => isTraced(e) && e.planeId === plane),
            );
          expect(own.tally((e) => e.type).get('line') ?? 0).toBe(own.ofType('line').length);
          expect(own.hasType('line')).toBe(own.ofType('line').length > 0);
        }
      }),
    );
  });

  it('tell what differs between two states, each entity once, wherever they lie', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 60 }), fc.array(act, { maxLength: 20 }), (first, then) => {
        const before = edited(first, EntityMap.EMPTY),
          now = edited(then, before);
        const expected = new Map<string, Changed>();
        for (const id of new Set([...before.keys(), ...now.keys()]))
          if (before.get(id) !== now.get(id)) expected.set(id, { before: before.get(id), now: now.get(id) });
        const idOf = (c: Changed) => (c.now ?? c.before)!.id;
        const told = now.changedSince(before);
        expect(told.map(idOf).sort()).toEqual([...expected.keys()].sort());
        for (const c of told) {
          expect(c.now).toBe(expected.get(idOf(c))!.now);
          expect(c.before).toBe(expected.get(idOf(c))!.before);
        }
        // Of states that share nothing too: the same entities gathered anew differ in nothing.
        expect(modelOf(now.values()).changedSince(now)).toEqual([]);
      }),
    );
  });

  it('hold hundreds of thousands, lose most of them and stay in order', () => {
    const many = modelOf(Array.from({ length: 20000 }, (_, i) => line(`l${i}`, 'ground', 1 + (i % 7))));
    const edit = many.edit();
    for (let i = 0; i < 20000; i++) if (i % 10 !== 3) edit.delete(`l${i}`);
    const few = edit.done();
    expect(few.size).toBe(2000);
    expect([...few.keys()].slice(0, 3)).toEqual(['l3', 'l13', 'l23']);
    expect(few.get('l19993')).toBe(many.get('l19993'));
    expect(few.get('l19994')).toBeUndefined();
    expect(few.changedSince(many).length).toBe(18000);
    expect(few.changedSince(many).every((c) => c.now === undefined)).toBe(true);
    expect(many.changedSince(few).every((c) => c.before === undefined)).toBe(true);
  });
});
