import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { translation } from '@calque/core/geometry';
import {
  apply,
  copiesOf,
  elementWords,
  gripsOf,
  groundStorey,
  isTraced,
  kindOf,
  KINDS,
  modelOf,
  movedBy,
  parseEntity,
  removeElements,
  rested,
  stretched,
  type Dimension,
  type Entity,
  type Traced,
} from '@calque/core/model';
import { anyEntity } from './any-entity.ts';

/** Kinds that are dealt with elsewhere by what they consist of: a placed group shows nothing without its group. */
const any = anyEntity.filter((e): e is Entity & Traced => isTraced(e)) as unknown as fc.Arbitrary<Traced>;
const style = { units: 'mm', precision: 1 } as const;

describe('the table of kinds', () => {
  it('has an arbitrary element of each kind to be tried by', () => {
    const met = new Set(fc.sample(any, { numRuns: 2000, seed: 7 }).map((e) => e.type));
    expect([...met].sort()).toEqual(Object.keys(KINDS).sort());
  });
  it('answers for every element: words, layer, shapes on the layer asked for, grips for its joints and edges', () => {
    fc.assert(
      fc.property(any, (e) => {
        const kind = kindOf(e),
          sound = parseEntity(JSON.parse(JSON.stringify(e))) as Traced;
        expect(sound.type).toBe(e.type);
        expect([
          kind.word(e) !== '',
          elementWords(e, style).length > kind.word(e).length,
          kind.layer.name !== '',
        ]).toEqual([true, true, true]);
        for (const shape of kind.shapes(e, 'here', style)) expect(shape.layer).toBe('here');
        const grips = gripsOf(e).length;
        for (const i of [...kind.joints(e), ...kind.edges(e).flatMap((edge) => edge.grips)])
          expect(i >= 0 && i < grips).toBe(true);
        if (kind.isRun) expect(kind.pieces(e).length).toBeGreaterThan(0);
        if (kind.ends(e)) expect(kind.isRun).toBe(true);
        expect(kind.length(e)).toBeGreaterThanOrEqual(0);
        expect(kind.pieces(e).length > 0 || kind.frame(e) !== null || e.type === 'placed').toBe(true);
      }),
      { numRuns: 500 },
    );
  });
  it('stretched by a region that holds nothing an element is the same object, by one that holds all it is moved', () => {
    fc.assert(
      fc.property(
        any,
        fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 })),
        (e, by) => {
          expect(stretched(e, () => false, by)).toBe(e);
          // What rests on others goes with them, not with the region.
          const free = kindOf(e).rests?.renamed(e, () => null) ?? e,
            all = stretched(free as Traced, () => true, by);
          // Some are no elements that could be drawn: all their corners are one.
          if ((by[0] === 0 && by[1] === 0) || all === null) return;
          const want = gripsOf(movedBy(free as Traced, translation(...by)));
          gripsOf(all).forEach((p, i) =>
            expect(Math.hypot(p[0] - want[i][0], p[1] - want[i][1])).toBeLessThan(1e-6),
          );
        },
      ),
      { numRuns: 500 },
    );
  });
  it('what rests on others follows them, is copied with them, and keeps its place when they go', () => {
    fc.assert(
      fc.property(
        any.filter((e) => kindOf(e).carries && gripsOf(e).length > 0),
        fc.nat(9),
        (carrier, n) => {
          const e = { ...carrier, id: 'carrier' } as Traced,
            // Edges of openings come and go: nothing rests on them.
            grip = n % Math.min(gripsOf(e).length, kindOf(e).steadyGrips ?? Infinity);
          const d: Dimension = {
            type: 'dimension',
            id: 'd',
            planeId: 'ground',
            source: e.source,
            measures: 'aligned',
            points: [
              [0, 0],
              [9, 9],
            ],
            on: [{ id: 'carrier', grip }, null],
            at: [5, 5],
            height: 100,
          };
          const model = modelOf([groundStorey('ground'), e, d]);
          expect(rested(d, model).points[0]).toEqual(gripsOf(e)[grip]);
          let next = 0;
          const [copy, copied] = copiesOf<Traced>([e, d], () => `n${next++}`, model);
          expect((copied as Dimension).on).toEqual([{ id: copy.id, grip }, null]);
          expect((copiesOf<Traced>([d], () => 'alone', model)[0] as Dimension).on).toEqual([null, null]);
          const after = apply(model, removeElements(model, [e])!);
          if (!after.ok) throw new Error('refused');
          expect(after.model.get('d')).toMatchObject({
            on: [null, null],
            points: [gripsOf(e)[grip], [9, 9]],
          });
        },
      ),
      { numRuns: 300 },
    );
  });
});
