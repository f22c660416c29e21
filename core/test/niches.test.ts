import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bandOf,
  cutWalls,
  gapNear,
  joinWalls,
  layerBodies,
  layerLines,
  linesOfOpenings,
  ownBodies,
  roomsWithin,
  straightParts,
} from '@calque/core/building';
import {
  ringArea,
  rotationAbout,
  segmentPiece,
  volumeOfAll,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import {
  groundStorey,
  modelOf,
  movedBy,
  parseEntity,
  usualOpening,
  type Pair,
  type Traced,
  type Wall,
  type WallOpening,
  type WallType,
} from '@calque/core/model';
import { enclosedBy, meshOf, wallBlocks } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import { wall } from './given-walls.ts';

const niche = (from: number, to: number, more: Partial<WallOpening> = {}): WallOpening => ({
  ...usualOpening('n1', 'niche', [from, 0], [to, 0]),
  ...more,
});
const line = (a: Pair, b: Pair): Piece => segmentPiece(a, b);
const areaOf = (w: Wall) =>
  joinWalls([w])
    .outlines.flat()
    .reduce((sum, ring) => sum + ringArea(ring), 0);
const volume = (w: Wall) => {
  const blocks = wallBlocks(w, ownBodies([w], cutWalls([w])).get(w.id)!);
  expect(enclosedBy(meshOf(blocks)) / volumeOfAll(blocks)).toBeCloseTo(1, 9);
  return volumeOfAll(blocks);
};

describe('a niche', () => {
  const w = wall('w', [0, 0], [5000, 0], { thickness: 300, openings: [niche(1000, 1600, { depth: 120 })] });

  it('takes its width, height and depth of the wall, at any turn, on either side, and what is deeper is open through', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.3, noNaN: true }),
        fc.constantFrom('left', 'right'),
        fc.constantFrom('centre', 'left', 'right'),
        fc.constantFrom(20, 120, 299, 300, 5000),
        (angle, opens, alignment, depth) => {
          const whole = wall('w', [0, 0], [5000, 0], {
            thickness: 300,
            alignment: alignment as 'left',
            openings: [niche(1000, 1600, { depth, opens: opens as 'left', sill: 400, head: 1900 })],
          });
          expect(volume(movedBy(whole, rotationAbout(angle, [0, 0])) as Wall)).toBeCloseTo(
            5000 * 2700 * 300 - 600 * 1500 * Math.min(depth, 300),
            0,
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  it('shares a stretch with a window above it, and another at the other face', () => {
    const openings = [
      niche(1000, 2000, { depth: 100, sill: 0, head: 800 }),
      niche(1500, 2500, { id: 'n2', depth: 80, opens: 'right', sill: 0, head: 600 }),
      { ...usualOpening('w1', 'window', [1200, 0], [1800, 0]), sill: 900, head: 2100 },
    ];
    const expected = 5000 * 2700 * 300 - 1000 * 800 * 100 - 1000 * 600 * 80 - 600 * 1200 * 300;
    expect(volume({ ...w, openings })).toBeCloseTo(expected, 0);
  });

  it('shows in plan as a recess of its face, with lines to snap to, and the face before it where it begins above the floor', () => {
    expect(areaOf(w)).toBeCloseTo(5000 * 300 - 600 * 120, 3);
    const faces = cutWalls([w]).faces.get('w')!,
      has = (a: Pair, b: Pair) =>
        faces.some((f) =>
          [
            [...a, ...b],
            [...b, ...a],
          ].some((g) => f.every((v, i) => Math.abs(v - g[i]) < 1e-6)),
        );
    // Its left face is at 150: the niche is open there.
    expect(has([1000, 30], [1600, 30])).toBe(true);
    expect(has([1000, 30], [1000, 150])).toBe(true);
    expect(has([0, 150], [1000, 150])).toBe(true);
    expect(has([0, -150], [5000, -150])).toBe(true);
    expect(linesOfOpenings(w)[0].lines).toHaveLength(1);
    expect(linesOfOpenings({ ...w, openings: [niche(1000, 1600, { sill: 0 })] })[0].lines).toEqual([]);
  });

  it('of a bent wall takes its straight width', () => {
    const bent = wall('w', [0, 0], [4000, 0], { thickness: 300, curve: 0.4 }),
      [from, to]: Pair[] = [
        [1500, -750],
        [2500, -750],
      ],
      niched = {
        ...bent,
        openings: [{ ...usualOpening('n', 'niche', from, to), sill: 0, head: 1000, depth: 90 }],
      },
      body = ringArea(cutWalls([niched]).bodies.get('w')!),
      [part] = straightParts(niched).filter((p) => p.wall.openings);
    // The lines on which parts meet go to the centre of the arc: what it takes is a little narrower at the inner face.
    const taken = body - areaOf(niched);
    expect(body * 2700 - volume(niched)).toBeCloseTo(taken * 1000, 0);
    expect(taken / (part.band.length * 90)).toBeCloseTo(1, 1);
    expect(part.band.length / 1000).toBeCloseTo(1, 1);
  });

  it('takes of the layers as deep as it goes, and their lines stop at it', () => {
    const type: WallType = {
      type: 'wallType',
      id: 't',
      name: 'T',
      layers: [
        { material: 'plaster', purpose: 'finish', thickness: 20 },
        { material: 'brick', purpose: 'structure', thickness: 260 },
        { material: 'plaster', purpose: 'finish', thickness: 20 },
      ],
    };
    const volumes = layerBodies(w, type, ownBodies([w], cutWalls([w])).get('w')!).map(({ body }) =>
      volumeOfAll(wallBlocks(w, body)),
    );
    // From the sill at 900 to the head at 2100.
    expect(volumes[0]).toBeCloseTo(20 * (5000 * 2700 - 600 * 1200), 0);
    expect(volumes[1]).toBeCloseTo(260 * 5000 * 2700 - 100 * 600 * 1200, 0);
    expect(volumes[2]).toBeCloseTo(20 * 5000 * 2700, 0);
    expect(layerLines(w, type, cutWalls([w]).bodies.get('w')!).map(([p, q]) => [p[0], q[0]])).toEqual([
      [0, 1000],
      [1600, 5000],
      [0, 5000],
    ]);
  });

  it('is counted among the openings, and neither face, room nor side loses anything by it', () => {
    const box = (openings: WallOpening[]): Traced[] => [
        wall('s', [0, 0], [5000, 0], { thickness: 300, openings }),
        wall('e', [5000, 0], [5000, 4000], { thickness: 300 }),
        wall('n', [5000, 4000], [0, 4000], { thickness: 300 }),
        wall('v', [0, 4000], [0, 0], { thickness: 300 }),
      ],
      counted = (openings: WallOpening[]) =>
        takeoff(
          modelOf([
            { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
            groundStorey('ground'),
            ...box(openings),
          ]),
        ),
      [without, with1] = [counted([]), counted([niche(1000, 1600)])];
    expect(with1.openings).toMatchObject([{ kind: 'niche', width: 600, height: 1200, sill: 900 }]);
    expect(with1.spaces).toEqual(without.spaces);
    expect(with1.walls.map((r) => [r.area, r.net])).toEqual(without.walls.map((r) => [r.area, r.net]));
    expect(without.walls[0].volume - with1.walls[0].volume).toBeCloseTo(0.6 * 1.2 * 0.1, 9);
    expect(roomsWithin(box([niche(1000, 1600)]) as Wall[]).rooms).toHaveLength(1);
  });

  it('keeps its face when it is mirrored, and is refused without a depth above nothing', () => {
    const mirrored = movedBy(w, [1, 0, 0, -1, 0, 0]) as Wall;
    expect(mirrored.openings![0].opens).toBe('right');
    expect(
      cutWalls([mirrored])
        .faces.get('w')!
        .some((f) => f.every((v, i) => Math.abs(v - [1000, -30, 1600, -30][i]) < 1e-6)),
    ).toBe(true);
    expect(() => parseEntity({ ...w, openings: [{ ...w.openings![0], depth: 0 }] })).toThrow();
    expect(parseEntity(w)).toEqual(w);
  });
});

describe('the niche of a plan', () => {
  const band = bandOf(wall('w', [0, 0], [6000, 0], { thickness: 200 }));
  const at = (from: number, to: number, v: number): Piece[] => [
    line([0, 100], [from, 100]),
    line([to, 100], [6000, 100]),
    line([0, -100], [6000, -100]),
    line([from, 100], [from, v]),
    line([from, v], [to, v]),
    line([to, v], [to, 100]),
  ];
  it('is found by its back and sides, and gives width, side and depth', () => {
    expect(gapNear(band, 1300, at(1000, 1800, 10))).toEqual({
      from: 1000,
      to: 1800,
      seen: { kind: 'niche', leaves: 0, hung: 'from', opens: 'left', swingSeen: false, depth: 90 },
    });
    const mirrored = at(1000, 1800, 10).map((p) =>
      p.kind === 'segment' ? line([p.from[0], -p.from[1]] as Pair, [p.to[0], -p.to[1]] as Pair) : p,
    );
    expect(gapNear(band, 1300, mirrored)).toMatchObject({
      seen: { kind: 'niche', opens: 'right', depth: 90 },
    });
    expect(gapNear(band, 3000, at(1000, 1800, 10))).toBeNull();
  });
  it('is none where the face goes on before it, as before a duct, or its sides do not reach the face', () => {
    const pieces = at(1000, 1800, 10);
    expect(gapNear(band, 1300, [...pieces, line([1000, 100], [1800, 100])])).toBeNull();
    expect(
      gapNear(
        band,
        1300,
        pieces.filter((p) => (p as { from: Point }).from[0] !== 1800 || p.kind !== 'segment').slice(0, 5),
      ),
    ).toBeNull();
    // The line between two layers.
    expect(
      gapNear(band, 1300, [
        line([0, 100], [6000, 100]),
        line([0, -100], [6000, -100]),
        line([0, 60], [6000, 60]),
      ]),
    ).toBeNull();
  });
});
