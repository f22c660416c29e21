import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  angleAt,
  betweenParallels,
  crossesItself,
  footOnLine,
  regularCorners,
  type Point,
} from '@calque/core/geometry';

const number = fc.double({ min: -1000, max: 1000, noNaN: true });
const point: fc.Arbitrary<Point> = fc.tuple(number, number);

describe('measures', () => {
  it('an angle is the smaller way round, whichever leg comes first', () => {
    expect(angleAt([0, 0], [5, 0], [0, 9])).toBeCloseTo(Math.PI / 2, 12);
    expect(angleAt([10, 10], [20, 10], [0, 10])).toBeCloseTo(Math.PI, 12);
    expect(angleAt([1, 1], [1, 1], [2, 2])).toBeNull();
    fc.assert(
      fc.property(
        point,
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: -3.1, max: 3.1, noNaN: true }),
        ([x, y], from, turn) => {
          const leg = (a: number, l: number): Point => [x + l * Math.cos(a), y + l * Math.sin(a)];
          expect(angleAt([x, y], leg(from, 50), leg(from + turn, 300))).toBeCloseTo(Math.abs(turn), 9);
          expect(angleAt([x, y], leg(from + turn, 300), leg(from, 50))).toBeCloseTo(Math.abs(turn), 9);
        },
      ),
    );
  });
  it('between parallels it is the way straight across, also where they lie beside one another', () => {
    expect(
      betweenParallels(
        [
          [0, 0],
          [1000, 0],
        ],
        [
          [3000, 240],
          [2000, 240],
        ],
        [400, 3],
      ),
    ).toEqual({ from: [400, 0], to: [400, 240], distance: 240 });
    expect(
      betweenParallels(
        [
          [0, 0],
          [1000, 0],
        ],
        [
          [0, 240],
          [1000, 290],
        ],
        [400, 0],
      ),
    ).toBeNull();
    expect(
      betweenParallels(
        [
          [0, 0],
          [1000, 0],
        ],
        [
          [0, 0],
          [0, 290],
        ],
        [400, 0],
      ),
    ).toBeNull();
  });
  it('the foot on a line is square to it, however far it runs on', () => {
    fc.assert(
      fc.property(point, point, point, (p, a, b) => {
        fc.pre(Math.hypot(b[0] - a[0], b[1] - a[1]) > 1);
        const foot = footOnLine(p, a, b),
          l = Math.hypot(b[0] - a[0], b[1] - a[1]);
        expect(((p[0] - foot[0]) * (b[0] - a[0]) + (p[1] - foot[1]) * (b[1] - a[1])) / l).toBeCloseTo(0, 6);
        expect(((foot[0] - a[0]) * (b[1] - a[1]) - (foot[1] - a[1]) * (b[0] - a[0])) / l).toBeCloseTo(0, 6);
      }),
    );
  });
});

describe('a ring', () => {
  it('crosses itself as a bow tie, where it touches itself or runs back over itself', () => {
    expect(
      crossesItself([
        [0, 0],
        [10, 10],
        [10, 0],
        [0, 10],
      ]),
    ).toBe(true);
    expect(
      crossesItself([
        [0, 0],
        [10, 0],
        [10, 10],
        [5, 0],
        [0, 10],
      ]),
    ).toBe(true);
    expect(
      crossesItself([
        [0, 0],
        [10, 0],
        [4, 0],
        [4, 10],
      ]),
    ).toBe(true);
    expect(
      crossesItself([
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ]),
    ).toBe(false);
    expect(
      crossesItself([
        [0, 0],
        [5, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ]),
    ).toBe(false);
    expect(
      crossesItself([
        [0, 0],
        [10, 0],
        [5, 8],
      ]),
    ).toBe(false);
  });
  it('of a regular shape never crosses itself, with two corners exchanged it does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 4, max: 30 }), point, fc.nat(), (n, centre, k) => {
        const ring = regularCorners(centre, [centre[0] + 100, centre[1] + 7], n, false),
          i = k % n,
          j = (i + 1) % n;
        expect(crossesItself(ring)).toBe(false);
        const mixed = [...ring];
        [mixed[i], mixed[j]] = [mixed[j], mixed[i]];
        expect(crossesItself(mixed)).toBe(true);
      }),
    );
  });
});
