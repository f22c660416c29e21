import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyOrThrow,
  forShelf,
  fromShelf,
  get,
  intoProject,
  isSameThing,
  parseEntity,
  parseShelfThing,
  soundEntity,
  type Assembly,
  type Shelved,
} from '@calque/core/model';
import { anyEntity } from './any-entity.ts';
import { source } from './given-elements.ts';
import { BOARDED, houseModel } from './given-house.ts';
import { wall } from './given-walls.ts';

const rack: Assembly = {
  type: 'assembly',
  id: 'rack',
  name: 'Oar rack',
  elements: [
    {
      ...wall('w', [0, 0], [900, 0], { thickness: 300, wallType: 'boarded' }),
      layerId: 'a-layer',
      done: true,
      source: { ...source, underlayId: 'a-sheet' },
    },
  ],
};

describe('the shelf', () => {
  it('takes what stands by itself: nothing on it names a layer, a sheet or a type of a project', () => {
    const kept = forShelf({ ...rack, shelfId: null }, 'fresh') as Assembly;
    expect(kept.id).toBe('fresh');
    expect(JSON.stringify(kept)).not.toMatch(/a-layer|a-sheet|boarded|shelfId|done/);
    // Once it has its place, it goes back there.
    expect(forShelf({ ...BOARDED, shelfId: 'place' }, 'fresh').id).toBe('place');
  });

  it('whatever is put there and taken back is the same, and fits the project that takes it', () => {
    const shelved = anyEntity.filter(
      (e): e is Shelved => e.type === 'wallType' || (e.type === 'assembly' && !e.open),
    );
    let seen = 0;
    fc.assert(
      fc.property(shelved, (given) => {
        // What a project has has come through its door.
        const thing = soundEntity(given) as Shelved,
          kept = forShelf(thing, 'place'),
          stored = parseShelfThing(JSON.parse(JSON.stringify(kept))) as Shelved,
          model = houseModel(),
          own = intoProject(model, stored, 'own');
        expect(isSameThing(stored, kept)).toBe(true);
        expect(parseEntity(own)).toBe(own);
        const now = applyOrThrow(model, { type: 'add', entity: own });
        expect(fromShelf(now, stored)).toEqual(own);
        expect(isSameThing(own, stored)).toBe(true);
        seen++;
      }),
      { numRuns: 200 },
    );
    expect(seen).toBeGreaterThan(100);
  });

  it('gives a name of its own where the project has one like it, and tells what differs', () => {
    const model = houseModel(),
      own = intoProject(model, { ...BOARDED, id: 'place' }, 'own');
    expect([own.name, own.id, own.shelfId]).toEqual(['Boarded studs 2', 'own', 'place']);
    expect(isSameThing(own, BOARDED)).toBe(true);
    const thicker = {
      ...BOARDED,
      layers: BOARDED.layers.map((l, i) => (i === 0 ? { ...l, thickness: 23 } : l)),
    };
    expect(isSameThing(own, thicker)).toBe(false);
    // A database gives fields back in another order.
    const turned = {
      layers: BOARDED.layers.map(({ material, purpose, thickness }) => ({ thickness, purpose, material })),
      name: 'x',
      id: 'y',
      type: 'wallType' as const,
    };
    expect(isSameThing(BOARDED, turned)).toBe(true);
    expect(get(model, 'wallType', 'boarded')).toEqual(BOARDED);
  });

  it('refuses at its door what is none', () => {
    const opening = {
      type: 'opening',
      id: 'o',
      name: ' Ferry door ',
      kind: 'door',
      width: null,
      sill: 0,
      head: 2100,
    };
    expect(parseShelfThing(opening)).toMatchObject({ name: 'Ferry door' });
    for (const wrong of [
      null,
      'text',
      [],
      {},
      { ...opening, kind: 'hatch' },
      { ...opening, sill: 2200 },
      { ...opening, head: 1e12 },
      { ...opening, width: 0 },
      { ...opening, id: '../x' },
      { ...opening, more: 1 },
      { ...BOARDED, layers: [] },
      { ...rack, elements: [{ type: 'wall' }] },
      wall('w', [0, 0], [1, 0]),
      { type: 'settings', id: 'settings', name: 'x', units: 'mm', precision: 0 },
    ])
      expect(() => parseShelfThing(wrong), JSON.stringify(wrong)).toThrow(/./);
  });
});
