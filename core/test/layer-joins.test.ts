import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { coresOf, cutWalls, joinWalls, layerBodies, linesOfLayers, ownBodies } from '@calque/core/building';
import { mirrorIn, ringArea, rotationAbout, type Polygon, type Transform } from '@calque/core/geometry';
import {
  fieldsOfType,
  groundStorey,
  modelOf,
  movedBy,
  parseEntity,
  type LayerPurpose,
  type Wall,
  type WallType,
} from '@calque/core/model';
import { wall } from './given-walls.ts';

const type = (id: string, ...layers: [string, LayerPurpose, number][]): WallType => ({
  type: 'wallType',
  id,
  name: id,
  layers: layers.map(([material, purpose, thickness]) => ({ material, purpose, thickness })),
});
const BRICK = type(
    'brick',
    ['plaster', 'finish', 20],
    ['brick', 'structure', 200],
    ['plaster', 'finish', 20],
  ),
  STUD = type('stud', ['board', 'lining', 10], ['stud', 'structure', 100], ['board', 'lining', 10]),
  /** Its core lies at the first face. */ FACED = type(
    'faced',
    ['brick', 'structure', 100],
    ['air', 'cavity', 50],
    ['boards', 'finish', 30],
  ),
  TYPES = [BRICK, STUD, FACED];
const of = (
  t: WallType,
  id: string,
  from: [number, number],
  to: [number, number],
  more: Partial<Wall> = {},
) => wall(id, from, to, { ...fieldsOfType(t, { alignment: 'centre', core: false }), ...more });
const model = (walls: readonly Wall[]) =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
    groundStorey('ground'),
    ...TYPES,
    ...walls,
  ]);
const areaOf = (polygons: readonly Polygon[]) => polygons.flat().reduce((sum, r) => sum + ringArea(r), 0);

/** The area in plan of each layer of each wall. */
function layersOf(walls: readonly Wall[]): Record<string, number[]> {
  const own = ownBodies(walls, cutWalls(walls), coresOf(model(walls)));
  return Object.fromEntries(
    walls.map((w) => [
      w.id,
      layerBodies(
        w,
        TYPES.find((t) => t.id === w.wallType)!,
        own.get(w.id)!,
      ).map(({ body }) => areaOf(body)),
    ]),
  );
}
/** Turned, what differs lies on the grid on which bodies are told apart: a millionth of a millimetre. */
const near = (areas: readonly number[], expected: readonly number[]) =>
  areas.forEach((a, i) => expect(a / expected[i], `layer ${i + 1}`).toBeCloseTo(1, 7));

/** Ways in which the same is drawn elsewhere: turned, and mirrored. */
const MAPS: readonly Transform[] = [
  [1, 0, 0, 1, 0, 0],
  rotationAbout(0.7, [300, 200]),
  mirrorIn([0, 0], [1000, 400])!,
];
const L = 3000;

describe('a corner of walls of different types', () => {
  // Drawn leftwards round: the right is the outer side.
  const a = of(BRICK, 'a', [0, 0], [L, 0]),
    b = of(STUD, 'b', [L, 0], [L, L]);

  it.each(MAPS.map((map, i) => [i, map] as const))(
    'mitred, core meets core and finish goes round it (%i)',
    (_, map) => {
      const layers = layersOf([a, b].map((w) => movedBy(w, map) as Wall));
      // From the outer face of each to the outer face of its core they end between those of the other. Inner layers come first to the left.
      near(layers.a, [20 * (L - 55), 200 * L, 20 * (L + 55)]);
      near(layers.b, [10 * (L - 110), 100 * L, 10 * (L + 110)]);
    },
  );

  it.each(MAPS.map((map, i) => [i, map] as const))(
    'where one runs through, its core goes to the far face of the other core, and the outer finish of that goes round it (%i)',
    (_, map) => {
      const layers = layersOf(
        [{ ...a, runsThrough: ['to' as const] }, b].map((w) => movedBy(w, map) as Wall),
      );
      near(layers.a, [20 * (L - 50), 200 * (L + 50), 20 * (L + 60)]);
      near(layers.b, [10 * (L - 120), 100 * (L - 100), 10 * (L + 100)]);
      const other = layersOf(
        [a, { ...b, runsThrough: ['from' as const] }].map((w) => movedBy(w, map) as Wall),
      );
      near(other.b, [10 * (L - 100), 100 * (L + 100), 10 * (L + 120)]);
      near(other.a, [20 * (L - 60), 200 * (L - 50), 20 * (L + 50)]);
    },
  );

  it('of walls of no type is square where one runs through, and covers what it covered', () => {
    const plain = [
        wall('a', [0, 0], [L, 0], { thickness: 200 }),
        wall('b', [L, 0], [L, L], { thickness: 100 }),
      ],
      through = [{ ...plain[0], runsThrough: ['to' as const] }, plain[1]],
      bodies = (walls: readonly Wall[]) => {
        const { bodies: b } = cutWalls(walls);
        return walls.map((w) => ringArea(b.get(w.id)!));
      };
    near(bodies(through), [200 * (L + 50), 100 * (L - 100)]);
    expect(areaOf(joinWalls(through).outlines)).toBeCloseTo(areaOf(joinWalls(plain).outlines), 3);
    // Both say so: the first drawn does.
    near(bodies([through[0], { ...plain[1], runsThrough: ['from'] }]), [200 * (L + 50), 100 * (L - 100)]);
  });

  it('stays mitred where walls go on nearly straight, or three meet', () => {
    const on = [
      { ...wall('a', [0, 0], [L, 0]), runsThrough: ['to' as const] },
      wall('b', [L, 0], [2 * L, 200]),
    ];
    expect(cutWalls(on).meets.get('a')?.end).toMatchObject({ kind: 'corner', through: null });
    const three = [...on.slice(0, 1), wall('b', [L, 0], [L, L]), wall('c', [L, 0], [L, -L])];
    expect(cutWalls(three).meets.get('a')).toBeUndefined();
  });
});

describe('a wall that runs into another', () => {
  it.each(MAPS.map((map, i) => [i, map] as const))(
    'has its core go through the finish there to the core, its own finish ends at it (%i)',
    (_, map) => {
      for (const turn of [1, -1]) {
        const through = of(BRICK, 't', [-L, 0], [L, 0]),
          stem = of(STUD, 's', [0, turn * L], [0, 0]),
          layers = layersOf([through, stem].map((w) => movedBy(w, map) as Wall));
        near(layers.s, [10 * (L - 120), 100 * (L - 100), 10 * (L - 120)]);
        const sides = [20 * (2 * L - 100), 200 * 2 * L, 20 * 2 * L];
        near(layers.t, turn > 0 ? sides : [sides[2], sides[1], sides[0]]);
      }
    },
  );
  it('goes through a cavity as well, and stops at once where the core lies at the face', () => {
    const stem = of(STUD, 's', [0, L], [0, 0]);
    // Seen from the stem its core is beyond: first the boards, then the cavity.
    const behind = layersOf([of(FACED, 't', [-L, 0], [L, 0], { firstLayer: 'right' }), stem]);
    near(behind.s, [10 * (L - 90), 100 * (L - 10), 10 * (L - 90)]);
    near(behind.t, [100 * 2 * L, 50 * (2 * L - 100), 30 * (2 * L - 100)]);
    const before = layersOf([of(FACED, 't', [-L, 0], [L, 0]), stem]);
    near(before.s, [10 * (L - 90), 100 * (L - 90), 10 * (L - 90)]);
    near(before.t, [100 * 2 * L, 50 * 2 * L, 30 * 2 * L]);
  });
  it('draws its lines up to there, and those of the finish are open between them', () => {
    const walls = [of(BRICK, 't', [-L, 0], [L, 0]), of(STUD, 's', [0, L], [0, 0])],
      lines = linesOfLayers(model(walls), walls).map(([p, q]) => [...p, ...q].map((v) => Math.round(v) + 0));
    expect(lines).toContainEqual([-L, 100, L, 100]);
    expect(lines).toContainEqual([-L, -100, L, -100]);
    expect(lines).toContainEqual([50, L, 50, 100]);
    expect(lines).toContainEqual([-50, L, -50, 100]);
    // Brick on brick is one.
    const alike = [of(BRICK, 't', [-L, 0], [L, 0]), of(BRICK, 's', [0, L], [0, 0])],
      open = linesOfLayers(model(alike), alike).map(([p, q]) => [...p, ...q].map((v) => Math.round(v) + 0));
    expect(open).toContainEqual([-L, 100, -100, 100]);
    expect(open).toContainEqual([100, 100, L, 100]);
  });
});

it('whatever meets however, all layers are together all walls, and none takes what another has', () => {
  const at = fc.integer({ min: 0, max: 5 }).map((n) => n * 1500),
    drawn = fc
      .tuple(
        at,
        at,
        at,
        at,
        fc.constantFrom(...TYPES, null),
        fc.constantFrom('centre', 'left', 'right'),
        fc.constantFrom('left', 'right'),
        fc.subarray(['from', 'to']),
      )
      .filter(([a, b, c, d]) => a !== c || b !== d);
  fc.assert(
    fc.property(fc.array(drawn, { minLength: 2, maxLength: 7 }), (list) => {
      const walls = list.map(([a, b, c, d, t, alignment, firstLayer, runsThrough], i): Wall => {
          const given = { runsThrough: runsThrough as 'from'[], firstLayer: firstLayer as 'left' };
          return t
            ? wall(`w${i}`, [a, b], [c, d], {
                ...fieldsOfType(t, { alignment: alignment as 'left', core: i % 2 === 0 }),
                ...given,
              })
            : wall(`w${i}`, [a, b], [c, d], { thickness: 140, alignment: alignment as 'left', ...given });
        }),
        m = model(walls),
        own = ownBodies(walls, cutWalls(walls), coresOf(m)),
        all = areaOf(joinWalls(walls).outlines);
      const sum = [...own.values()].reduce((s, body) => s + areaOf(body), 0);
      expect(Math.abs(sum - all)).toBeLessThan(Math.max(2, all * 1e-6));
      for (const w of walls) {
        const t = TYPES.find((one) => one.id === w.wallType);
        if (!t) continue;
        const whole = areaOf(own.get(w.id) ?? []),
          parts = layerBodies(w, t, own.get(w.id) ?? []).reduce((s, { body }) => s + areaOf(body), 0);
        expect(Math.abs(parts - whole)).toBeLessThan(Math.max(2, whole * 1e-6));
      }
      expect(linesOfLayers(m, walls).flat(2).every(Number.isFinite)).toBe(true);
    }),
    { numRuns: 300 },
  );
});

it('what runs through is one of two ends, or is refused', () => {
  const w = wall('w', [0, 0], [L, 0], { runsThrough: ['to'] });
  expect(parseEntity(w)).toEqual(w);
  expect(() => parseEntity({ ...w, runsThrough: ['middle'] })).toThrow();
});
