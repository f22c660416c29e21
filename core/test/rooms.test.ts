import fc from 'fast-check';
import polygonClipping from 'polygon-clipping';
import { describe, expect, it } from 'vitest';
import { areaOf, joinWalls, roomsWithin, roomWords } from '@calque/core/building';
import { rotationAbout, type Point } from '@calque/core/geometry';
import {
  groundStorey,
  modelOf,
  movedBy,
  usualOpening,
  type Entity,
  type Pair,
  type Wall,
} from '@calque/core/model';
import { takeoff, WINDS } from '@calque/core/takeoff';
import { source, wall } from './given-walls.ts';

const model = (...entities: Entity[]) =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
    { ...groundStorey('ground'), height: 2700, heightAssumed: false },
    ...entities,
  ]);
const box = (id: string, x: number, y: number, X: number, Y: number, more: Partial<Wall> = {}) => [
  wall(`${id}1`, [x, y], [X, y], more),
  wall(`${id}2`, [X, y], [X, Y], more),
  wall(`${id}3`, [X, Y], [x, Y], more),
  wall(`${id}4`, [x, Y], [x, y], more),
];
/** 8 x 5 m by the middle lines, parted at 5 m. */
const HOUSE = [
  ...box('o', 0, 0, 8000, 5000),
  wall('i', [5000, 0], [5000, 5000], {
    thickness: 100,
    openings: [{ ...usualOpening('o1', 'door', [5000, 2000], [5000, 2900]) }],
  }),
];
const text = (id: string, at: Pair, words: string): Entity => ({
  type: 'text',
  id,
  planeId: 'ground',
  source,
  at,
  angle: 0,
  height: 125,
  text: words,
});

describe('rooms that walls enclose', () => {
  it('lie between inside faces, closed across openings, with islands left out and slits no rooms', () => {
    const { rooms, outside } = roomsWithin(HOUSE);
    const areas = rooms.map((r) => r.area / 1e6).sort((a, b) => a - b);
    expect(areas[0]).toBeCloseTo((3 - 0.15) * 4.8, 6);
    expect(areas[1]).toBeCloseTo((5 - 0.15) * 4.8, 6);
    expect(outside).toHaveLength(1);
    const withIsland = roomsWithin([...box('o', 0, 0, 8000, 5000), ...box('c', 3000, 2000, 4000, 3000)]);
    expect(withIsland.rooms.map((r) => r.area / 1e6).sort((a, b) => a - b)[1]).toBeCloseTo(
      7.8 * 4.8 - 1.44,
      6,
    );
    expect(withIsland.outside).toHaveLength(1);
    // 100 mm between two walls are a slit; walls that do not close enclose nothing.
    expect(roomsWithin(box('s', 0, 0, 400, 300)).rooms).toHaveLength(0);
    expect(roomsWithin(HOUSE.slice(0, 3)).rooms).toHaveLength(0);
  });

  it('together with the walls are all that lies within the outside faces: random plans at any turn, by an independent union', () => {
    const cut = fc.integer({ min: 10, max: 90 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ at: cut, across: fc.boolean(), thickness: fc.integer({ min: 60, max: 300 }) }), {
          maxLength: 5,
        }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        (parts, angle) => {
          const map = rotationAbout(angle, [4000, 2500]);
          const walls = [
            ...box('o', 0, 0, 8000, 5000, { thickness: 300 }),
            ...parts.map(({ at, across, thickness }, i) =>
              across
                ? wall(`p${i}`, [80 * at, 0], [80 * at, 5000], { thickness })
                : wall(`p${i}`, [0, 50 * at], [8000, 50 * at], { thickness }),
            ),
          ].map((w) => movedBy(w, map));
          const { rooms, outside, wallArea } = roomsWithin(walls);
          const gross = 8.3e3 * 5.3e3;
          expect(areaOf([outside])).toBeCloseTo(gross, -1);
          // The library's own union, not ours, says what the walls cover.
          const bodies = joinWalls(walls).bodies;
          const [first, ...rest] = [...bodies.values()].map((r): [number, number][][] => [
            r.map(([x, y]): [number, number] => [Math.round(x * 1024) / 1024, Math.round(y * 1024) / 1024]),
          ]);
          const united = polygonClipping.union(first, ...rest) as unknown as Point[][][];
          expect(
            Math.abs(areaOf(united.map((p) => p.map((ring) => ring.slice(0, -1)))) - wallArea),
          ).toBeLessThan(200);
          const slits = 1.2e6;
          const total = rooms.reduce((sum, r) => sum + r.area, 0) + wallArea;
          expect(total).toBeLessThanOrEqual(gross + 10);
          expect(total).toBeGreaterThan(gross - slits);
        },
      ),
      { numRuns: 80 },
    );
  });
});

describe('spaces in the takeoff', () => {
  it('are named by the words that stand in them; those without are said to be named by nobody', () => {
    const { spaces } = takeoff(model(...HOUSE, text('t', [1000, 1000], 'Boat bay\n24 m2')));
    expect(spaces.map((s) => [s.name, s.assumed])).toEqual(
      expect.arrayContaining([
        ['Boat bay', []],
        [expect.stringMatching(/^Room \d$/), ['name']],
      ]),
    );
    const bay = spaces.find((s) => s.name === 'Boat bay')!;
    expect(bay.area).toBeCloseTo(4.85 * 4.8, 6);
    expect(bay.perimeter).toBeCloseTo(2 * (4850 + 4800), 3);
    expect(bay.volume).toBeCloseTo(4.85 * 4.8 * 2.7, 6);
  });

  it('tell for each side how long it is, what lies beyond, and its openings; both sides of a wall agree', () => {
    const { spaces } = takeoff(
      model(...HOUSE, text('t', [1000, 1000], 'Bay'), text('u', [6000, 1000], 'Store')),
    );
    const [bay, store] = ['Bay', 'Store'].map((n) => spaces.find((s) => s.name === n)!);
    const between = bay.boundaries.find((b) => b.beyond === 'Store')!,
      back = store.boundaries.find((b) => b.beyond === 'Bay')!;
    expect(between).toMatchObject({ wall: 'i', thickness: 100, facing: null });
    expect(between.length).toBeCloseTo(4800, 3);
    expect(between.doors).toBeCloseTo(0.9 * 2.1, 9);
    expect(between.net).toBeCloseTo(4.8 * 2.7 - 0.9 * 2.1, 6);
    expect(back.net).toBeCloseTo(between.net, 9);
    const out = bay.boundaries.filter((b) => b.beyond === 'outside').reduce((sum, b) => sum + b.length, 0);
    expect(out).toBeCloseTo(4850 * 2 + 4800, 3);
    expect(bay.boundaries.reduce((sum, b) => sum + b.length, 0)).toBeCloseTo(bay.perimeter, 3);
  });

  it('face the winds as the north arrow says, whichever way the walls were drawn, at any turn of the plan', () => {
    for (let k = 0; k < 8; k++) {
      const map = rotationAbout((k * Math.PI) / 4, [0, 0]);
      const north: Entity = {
        type: 'symbol',
        id: 'n',
        planeId: 'ground',
        source,
        mark: 'north',
        at: [9000, 0],
        angle: Math.PI / 2 + (k * Math.PI) / 4,
        size: 500,
        text: 'N',
      };
      const walls = box('o', 0, 0, 8000, 5000).map((w, i) =>
        movedBy(i % 2 === 0 ? w : { ...w, from: w.to, to: w.from }, map),
      );
      const [room] = takeoff(model(...walls, north)).spaces;
      const of = (id: string) => room.boundaries.find((b) => b.wall === id)!.facing;
      expect([of('o1'), of('o2'), of('o3'), of('o4')], String(k)).toEqual(['S', 'E', 'N', 'W']);
    }
    expect(WINDS).toHaveLength(8);
  });

  it('have what they have on every other side of a wall that runs on: rooms, walls and outside apart', () => {
    // A long room below, two rooms above over part of it, and open ground beside them.
    const walls = [
      ...box('b', 0, 0, 9000, 3000),
      wall('l', [0, 3000], [0, 6000]),
      wall('m', [3000, 3000], [3000, 6000]),
      wall('r', [6000, 3000], [6000, 6000]),
      wall('t', [0, 6000], [6000, 6000]),
    ];
    const { spaces } = takeoff(
      model(
        ...walls,
        text('1', [500, 500], 'Long'),
        text('2', [500, 4000], 'Left'),
        text('3', [3500, 4000], 'Right'),
      ),
    );
    const long = spaces.find((s) => s.name === 'Long')!,
      top = long.boundaries.filter((b) => b.wall === 'b3');
    const length = (beyond: string | null) =>
      top.filter((b) => b.beyond === beyond).reduce((sum, b) => sum + b.length, 0);
    expect(length('Left')).toBeCloseTo(2800, 2);
    expect(length('Right')).toBeCloseTo(2800, 2);
    expect(length(null)).toBeCloseTo(200 + 200, 2);
    expect(length('outside')).toBeCloseTo(8800 - 2 * 2800 - 400, 2);
  });
});

describe('what a sheet writes in a room', () => {
  const words = (...texts: [string, number][]) =>
    roomWords(texts.map(([text, height]) => ({ text, height })));
  it('is its name, its number and its area, whichever comes first; figures and notes are none of them', () => {
    expect(words(['20.9 m2', 6], ['Changing A', 8], ['G.04', 7])).toEqual({
      name: 'Changing A',
      number: 'G.04',
      printed: 20.9e6,
    });
    expect(words(['9450', 7], ['28,6 m²', 6], ['Entrance hall', 8])).toMatchObject({
      name: 'Entrance hall',
      number: '',
      printed: 28.6e6,
    });
    expect(words(['BEDROOM 2', 9], ['Area: 132 sq ft', 6], ['102', 7])).toMatchObject({
      name: 'BEDROOM 2',
      number: '102',
      printed: 132 * 304.8 ** 2,
    });
    expect(words(['All dimensions are to be checked on site before work begins', 9], ['+2.700', 5])).toEqual({
      name: '',
      number: '',
      printed: null,
    });
  });

  it('is what the takeoff calls the room, with the printed area beside its own', () => {
    const space: Entity = {
      type: 'space',
      id: 's',
      planeId: 'ground',
      source,
      at: [1000, 1000],
      name: 'Boat bay',
      number: 'G1',
      letters: 125,
      printed: 23.3e6,
    };
    const bay = takeoff(model(...HOUSE, space)).spaces.find((s) => s.name === 'Boat bay')!;
    expect(bay).toMatchObject({ number: 'G1', printed: 23.3, assumed: [] });
    expect(bay.area).toBeCloseTo(23.28, 2);
  });
});
