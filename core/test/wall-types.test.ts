import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bandOf, cutWalls, layerBodies, layerLines, ownBodies } from '@calque/core/building';
import { drawingOfModel } from '@calque/core/exchange';
import { mirrorIn, volumeOfAll } from '@calque/core/geometry';
import {
  apply,
  fieldsOfType,
  get,
  kindOf,
  makeAssembly,
  modelOf,
  parseEntity,
  retyped,
  typedAs,
  untyped,
  wallTypeName,
  wallTypeOf,
  withoutType,
  type Change,
  type Entity,
  type Model,
  type Wall,
  type WallType,
} from '@calque/core/model';
import { wallBlocks } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import { BOARDED, door, houseModel, window } from './given-house.ts';
import { wall } from './given-walls.ts';

const typed = (id: string, from: [number, number], to: [number, number], more: Partial<Wall> = {}): Wall =>
  wall(id, from, to, { ...fieldsOfType(BOARDED, { alignment: 'left', core: false }), ...more });
const model = (...entities: Entity[]): Model =>
  modelOf([
    { type: 'storey', id: 'ground', name: 'Ground', elevation: 0, height: 2700, heightAssumed: false },
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 1 },
    BOARDED,
    ...entities,
  ]);
function after(m: Model, change: Change | null): { now: Model; inverse: Change } {
  if (!change) throw new Error('nothing changes');
  const done = apply(m, change);
  if (!done.ok) throw new Error('it does not apply');
  return { now: done.model, inverse: done.inverse };
}

describe('layers of a wall', () => {
  it('of a straight wall with a door and a window have the volumes of the closed formula', () => {
    const w = typed('w', [0, 0], [5000, 0], {
        openings: [door('d', [1000, 0], [1900, 0]), window('v', [3000, 0], [4200, 0])],
      }),
      counted = takeoff(model(w));
    const face = 5000 * 2700 - 900 * 2100 - 1200 * 1200;
    expect(counted.layers.map((l) => l.material)).toEqual(BOARDED.layers.map((l) => l.material));
    for (const { thickness, area, volume } of counted.layers) {
      expect(volume / ((face * thickness) / 1e9)).toBeCloseTo(1, 12);
      expect(area / (face / 1e6)).toBeCloseTo(1, 12);
    }
    expect(counted.walls[0]).toMatchObject({ type: 'Boarded studs', thickness: 300 });
  });

  it('at a mitre are as long as the middle of each: the outer one longer, the inner one shorter', () => {
    const walls = [typed('a', [0, 0], [4000, 0]), typed('b', [4000, 0], [4000, 3000])],
      { layers } = takeoff(model(...walls));
    // Drawn by the left face the walls turn left: what lies farther to the right goes farther round.
    let depth = 0;
    for (const { thickness, volume } of layers) {
      const middle = depth + thickness / 2;
      expect(volume / (((7000 + 2 * middle) * thickness * 2700) / 1e9)).toBeCloseTo(1, 9);
      depth += thickness;
    }
  });

  it('take together all of their wall, however walls meet, whichever way their layers lie', () => {
    const at = fc.integer({ min: 0, max: 6 }).map((n) => n * 1500),
      drawn = fc
        .tuple(at, at, at, at, fc.constantFrom('centre', 'left', 'right'), fc.constantFrom('left', 'right'))
        .filter(([a, b, c, d]) => a !== c || b !== d);
    fc.assert(
      fc.property(fc.array(drawn, { minLength: 1, maxLength: 5 }), (list) => {
        const walls = list.map(([a, b, c, d, alignment, firstLayer], i) =>
            typed(`w${i}`, [a, b], [c, d], {
              ...fieldsOfType(BOARDED, { alignment: alignment as 'left', core: i % 2 === 0 }),
              firstLayer: firstLayer as 'left',
              openings: [door('d', [a, b], [(a + c) / 2, (b + d) / 2])],
            }),
          ),
          own = ownBodies(walls, cutWalls(walls));
        for (const w of walls) {
          const whole = own.get(w.id) ?? [],
            parts = layerBodies(w, BOARDED, whole);
          const sum = parts.reduce((v, { body }) => v + volumeOfAll(wallBlocks(w, body)), 0),
            all = volumeOfAll(wallBlocks(w, whole));
          // A cut lies within a millionth of a millimetre: of an area of metres by a few of them.
          expect(Math.abs(sum - all)).toBeLessThan(Math.max(1, all * 1e-6));
        }
      }),
      { numRuns: 100 },
    );
  });

  it('are lines in plan from end to end, without its doors, the first beside the face at which it lies', () => {
    const w = typed('w', [0, 0], [5000, 0], { openings: [door('d', [1000, 0], [1900, 0])] }),
      body = cutWalls([w]).bodies.get('w')!;
    const lines = layerLines(w, BOARDED, body);
    expect(lines).toHaveLength(6);
    expect([...new Set(lines.map(([[, y]]) => Math.round(y)))]).toEqual([-22, -60, -285]);
    expect(lines[0].flat().map(Math.round)).toEqual([0, -22, 1000, -22]);
    const turned = { ...w, firstLayer: 'right' as const };
    expect([...new Set(layerLines(turned, BOARDED, body).map(([[, y]]) => Math.round(y)))]).toEqual([
      -278, -240, -15,
    ]);
    const { shapes } = drawingOfModel(model(w));
    expect(shapes.filter((s) => s.layer === 'Wall layers')).toHaveLength(6);
  });
});

describe('a wall type', () => {
  it('draws a wall by its core: the line lies behind the finish of that face', () => {
    const first = wall('w', [0, 0], [1000, 0], fieldsOfType(BOARDED, { alignment: 'left', core: true })),
      last = wall('v', [0, 0], [1000, 0], fieldsOfType(BOARDED, { alignment: 'right', core: true }));
    expect(bandOf(first)).toMatchObject({ left: 60, right: 240 });
    expect(bandOf(last)).toMatchObject({ left: 285, right: 15 });
    expect(
      bandOf({ ...last, ...fieldsOfType(BOARDED, { alignment: 'right', core: true }, 'right') }).right,
    ).toBe(60);
  });

  it('changed changes all its walls in one step, those in groups too, and is undone in one', () => {
    const own = wall('own', [0, 9000], [1000, 9000], { thickness: 300 }),
      core = typed('core', [0, 0], [5000, 0], fieldsOfType(BOARDED, { alignment: 'left', core: true })),
      grouped = typed('grouped', [0, 4000], [5000, 4000]),
      loose = model(own, core, grouped),
      { now: m } = after(
        loose,
        makeAssembly(loose, [grouped], { id: 'g', placedId: 'p', name: 'Bay', base: [0, 4000] }),
      ),
      next: WallType = {
        ...BOARDED,
        layers: BOARDED.layers.map((l, i) => (i === 1 ? { ...l, thickness: 50 } : l)),
      },
      { now, inverse } = after(m, retyped(m, next));
    expect(get(now, 'wall', 'core')).toMatchObject({ thickness: 312, inset: 72 });
    expect(get(now, 'assembly', 'g')?.elements).toMatchObject([{ thickness: 312, wallType: 'boarded' }]);
    expect(get(now, 'wall', 'own')).toMatchObject({ thickness: 300 });
    expect(wallTypeOf(now, get(now, 'wall', 'core')!)?.name).toBe('Boarded studs');
    const back = apply(now, inverse);
    expect(back.ok && [...back.model.values()]).toEqual([...m.values()]);
  });

  it('is not said of a wall that has another thickness, nor once the type is gone', () => {
    const w = typed('w', [0, 0], [5000, 0]),
      m = model(w);
    expect(wallTypeName(m, w)).toBe('Boarded studs');
    expect(wallTypeName(m, { ...w, thickness: 301 })).toBe('Wall 301');
    expect(untyped(w, 250)).toMatchObject({ wallType: null, thickness: 250, inset: null });
    const { now } = after(m, withoutType(m, BOARDED));
    expect(get(now, 'wall', 'w')).toMatchObject({ wallType: null, thickness: 300 });
    expect(takeoff(now).layers).toEqual([]);
    expect(wallTypeName(modelOf([...m.values()].filter((e) => e.id !== BOARDED.id)), w)).toBe('Wall 300');
  });

  it('follows a wall that is mirrored, and comes back with it', () => {
    const w = typed('w', [0, 0], [5000, 0]),
      map = mirrorIn([0, 500], [1000, 500])!,
      there = kindOf(w).moved(w, map) as Wall,
      back = kindOf(there).moved(there, map) as Wall;
    expect(there).toMatchObject({ alignment: 'right', firstLayer: 'right' });
    expect(back).toMatchObject({ alignment: 'left', firstLayer: 'left', from: w.from, to: w.to });
    expect(typedAs(there, BOARDED)).toMatchObject({ firstLayer: 'right', alignment: 'right' });
  });

  it('without layers, with one of no thickness, or of no purpose is refused', () => {
    expect(parseEntity(BOARDED)).toEqual(BOARDED);
    for (const layers of [
      [],
      [{ material: 'Air', purpose: 'cavity', thickness: 0 }],
      [{ material: 'Air', purpose: 'nothing', thickness: 10 }],
      [{ material: ' ', purpose: 'cavity', thickness: 10 }],
      Array.from({ length: 31 }, () => BOARDED.layers[0]),
    ])
      expect(() => parseEntity({ ...BOARDED, layers })).toThrow();
    expect(() => parseEntity({ ...typed('w', [0, 0], [9, 0]), inset: 400 })).toThrow(/beyond its other face/);
  });

  it('is what the sides of rooms say that they are of', () => {
    const { spaces, walls } = takeoff(houseModel()),
      sides = spaces.flatMap((s) => s.boundaries).filter((b) => b.wall === 'south');
    expect(sides.map((b) => b.wallType)).toEqual(sides.map(() => 'Boarded studs'));
    expect(walls.find((w) => w.id === 'middle')?.type).toBe('Wall 100');
  });
});
