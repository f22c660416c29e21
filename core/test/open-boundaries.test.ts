import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { roomsWithin } from '@calque/core/building';
import { rotationAbout } from '@calque/core/geometry';
import {
  groundStorey,
  modelOf,
  movedBy,
  type Entity,
  type OpenBoundary,
  type Pair,
} from '@calque/core/model';
import { takeoff } from '@calque/core/takeoff';
import { base } from './given-elements.ts';
import { wall } from './given-walls.ts';

const open = (id: string, from: Pair, to: Pair): OpenBoundary => ({
  type: 'openBoundary',
  ...base(id),
  from,
  to,
});
/** 8 x 5 m by the inside faces. */
const HALL = [
  wall('s', [0, 0], [8000, 0], { alignment: 'left' }),
  wall('e', [8000, 0], [8000, 5000], { alignment: 'left' }),
  wall('n', [8000, 5000], [0, 5000], { alignment: 'left' }),
  wall('w', [0, 5000], [0, 0], { alignment: 'left' }),
];
const model = (...entities: Entity[]) =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
    { ...groundStorey('ground'), height: 2700, heightAssumed: false },
    ...entities,
  ]);
const text = (id: string, at: Pair, words: string): Entity => ({
  type: 'text',
  ...base(id),
  at,
  angle: 0,
  height: 125,
  text: words,
});
const areas = (...lines: OpenBoundary[]) =>
  roomsWithin(HALL, lines)
    .rooms.map((r) => r.area / 1e6)
    .sort((a, b) => a - b);

describe('open boundaries', () => {
  it('part a room where they go from face to face; the parts are the whole to a hundredth of a square millimetre', () => {
    const [kitchen, hall] = areas(open('a', [3000, 0], [3000, 5000]));
    expect(kitchen).toBeCloseTo(15, 8);
    expect(hall).toBeCloseTo(25, 8);
    // An alcove by two lines that meet; one runs on past the other.
    const [alcove, rest] = areas(open('a', [3000, 0], [3000, 2000]), open('b', [0, 2000], [3000.5, 2000]));
    expect(alcove).toBeCloseTo(6, 8);
    expect(rest).toBeCloseTo(34, 8);
  });

  it('that end in the room, or leave a gap, part nothing and leave no trace in its outline', () => {
    const plain = roomsWithin(HALL).rooms,
      { rooms } = roomsWithin(HALL, [open('a', [3000, 0], [3000, 4000]), open('b', [500, 500], [700, 900])]);
    expect(rooms).toHaveLength(1);
    expect(rooms[0].area).toBeCloseTo(plain[0].area, 3);
    expect(rooms[0].perimeter).toBeCloseTo(plain[0].perimeter, 3);
  });

  it('wherever they lie, the rooms are together what the walls enclose', () => {
    const place = fc.integer({ min: 1, max: 9 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(place, place, fc.boolean()), { minLength: 1, maxLength: 4 }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        (lines, angle) => {
          const map = rotationAbout(angle, [100, 7000]),
            walls = HALL.map((w) => movedBy(w, map)),
            drawn = lines.map(([a, b, across], i) =>
              movedBy(
                across
                  ? open(`b${i}`, [800 * a, 0], [800 * b, 5000])
                  : open(`b${i}`, [0, 500 * a], [8000, 500 * b]),
                map,
              ),
            );
          const { rooms } = roomsWithin(walls, drawn),
            slivers = 0.1e6 * 3 * lines.length ** 2,
            sum = rooms.reduce((all, r) => all + r.area, 0);
          // Where several meet at a wall, a corner may lie off by what a slit is wide.
          const slits = drawn.reduce(
            (all, { from, to }) => all + 0.002 * Math.hypot(to[0] - from[0], to[1] - from[1]),
            0,
          );
          expect(sum).toBeLessThan(40e6 + slits);
          expect(sum).toBeGreaterThan(40e6 - slivers);
          expect(rooms.length).toBeGreaterThan(1);
        },
      ),
      { numRuns: 100 },
    );
  });

  it('are sides of both rooms, with the other beyond, as long as they are drawn, and of no wall', () => {
    const { spaces } = takeoff(
      model(
        ...HALL,
        open('a', [3000, 0], [3000, 5000]),
        text('t', [1000, 1000], 'Kitchen'),
        text('u', [6000, 1000], 'Hall'),
      ),
    );
    const sides = spaces.map((s) => [s.name, s.boundaries.filter((b) => b.side === 'open')] as const);
    expect(sides).toHaveLength(2);
    for (const [name, list] of sides) {
      expect(list).toHaveLength(1);
      expect(list[0]).toMatchObject({ beyond: name === 'Hall' ? 'Kitchen' : 'Hall', wall: null, glazing: 0 });
      expect(list[0].length).toBeCloseTo(5000, 3);
      expect(list[0].gross).toBeCloseTo(13.5, 6);
    }
    const kitchen = spaces.find((s) => s.name === 'Kitchen')!;
    expect(
      kitchen.boundaries
        .filter((b) => b.side === 'wall')
        .map((b) => Math.round(b.length))
        .sort(),
    ).toEqual([3000, 3000, 5000]);
  });

  it('of another storey, and along a wall, are no sides', () => {
    const upper = { ...groundStorey('upper'), name: 'Upper', elevation: 3000 },
      { spaces } = takeoff(
        model(
          ...HALL,
          upper,
          { ...open('a', [3000, 0], [3000, 5000]), planeId: 'upper' },
          open('b', [0, 0], [8000, 0]),
        ),
      );
    expect(spaces).toHaveLength(1);
    expect(spaces[0].area).toBeCloseTo(40, 8);
    expect(spaces[0].boundaries.filter((b) => b.side === 'open')).toEqual([]);
  });
});
