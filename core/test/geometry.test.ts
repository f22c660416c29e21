import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyTransform,
  boxRing,
  circleThrough,
  compose,
  cubicAt,
  cubicPart,
  distanceToOutline,
  insideIntervals,
  intersectIntervals,
  invertTransform,
  isUprightBox,
  makeRegion,
  normalAngle,
  outlineIsWithin,
  regionContains,
  ringArea,
  rotationAbout,
  scalingAbout,
  sideOf,
  subtractIntervals,
  transformBox,
  translation,
  cleanRing,
  partedAtPinches,
  type Ring,
  unionOf,
  type Cubic,
  type Interval,
  type Point,
  type Transform,
} from '@calque/core/geometry';

const coordinate = fc.double({ min: -1e4, max: 1e4, noNaN: true });
const point = fc.tuple(coordinate, coordinate);
const near = (a: Point, b: Point, within = 1e-6): void => {
  expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(within);
};
const similarity = fc
  .tuple(
    fc.double({ min: 0.01, max: 100, noNaN: true }),
    fc.double({ min: -3.1, max: 3.1, noNaN: true }),
    point,
  )
  .map(([k, a, p]): Transform =>
    compose(translation(p[0], p[1]), compose(rotationAbout(a, [0, 0]), scalingAbout(k, [0, 0]))),
  );

describe('transforms', () => {
  it('an inverse undoes its map', () =>
    fc.assert(
      fc.property(similarity, point, (t, p) => {
        near(applyTransform(invertTransform(t), applyTransform(t, p)), p, 1e-4);
      }),
    ));
  it('compose does the second argument first', () => {
    near(applyTransform(compose(translation(10, 0), scalingAbout(2, [0, 0])), [3, 4]), [16, 8]);
    near(applyTransform(compose(scalingAbout(2, [0, 0]), translation(10, 0)), [3, 4]), [26, 8]);
  });
  it('scaling and turning keep their point', () =>
    fc.assert(
      fc.property(point, fc.double({ min: 0.1, max: 9, noNaN: true }), (p, k) => {
        near(applyTransform(scalingAbout(k, p), p), p);
        near(applyTransform(rotationAbout(k, p), p), p);
      }),
    ));
  it('refuses to invert what has no area', () =>
    expect(() => invertTransform([1, 2, 2, 4, 0, 0])).toThrow(/determinant/));
  it('a turned box holds its corners', () =>
    expect(transformBox(rotationAbout(Math.PI / 2, [0, 0]), [0, 0, 2, 1])).toEqual(
      [-1, 0, 0, 2].map((v) => expect.closeTo(v, 12)),
    ));
});

describe('regions', () => {
  const ring = (n: number, r: number, cx = 0, cy = 0): Point[] =>
    Array.from({ length: n }, (_, i) => [
      cx + r * Math.cos((2 * Math.PI * i) / n),
      cy + r * Math.sin((2 * Math.PI * i) / n),
    ]);
  it('nonzero fills what evenodd leaves out', () => {
    const rings = [boxRing([0, 0, 10, 10]), boxRing([3, 3, 7, 7])];
    expect(regionContains(makeRegion(rings, 'nonzero'), 5, 5)).toBe(true);
    expect(regionContains(makeRegion(rings, 'evenodd'), 5, 5)).toBe(false);
    expect(regionContains(makeRegion([rings[0], [...rings[1]].reverse()], 'nonzero'), 5, 5)).toBe(false);
  });
  it('the parts of a segment inside are those whose middles are inside', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 12 }),
        fc.double({ min: 1, max: 50, noNaN: true }),
        fc.tuple(coordinate, coordinate, coordinate, coordinate).map((v) => v.map((x) => x / 150)),
        (n, r, [x0, y0, x1, y1]) => {
          const region = makeRegion([ring(n, r)], 'nonzero');
          const parts = insideIntervals(region, x0, y0, x1, y1, 0);
          const length = Math.hypot(x1 - x0, y1 - y0);
          let sampled = 0;
          for (let i = 0; i < 200; i++) {
            const t = (i + 0.5) / 200;
            if (regionContains(region, x0 + t * (x1 - x0), y0 + t * (y1 - y0))) sampled++;
          }
          const share = parts.reduce((s, [a, b]) => s + b - a, 0);
          if (length > 0) expect(Math.abs(share - sampled / 200)).toBeLessThan(0.03);
        },
      ),
    );
  });
  it('a margin shrinks or grows what counts as inside', () => {
    const square = makeRegion([boxRing([0, 0, 10, 10])], 'nonzero');
    expect(insideIntervals(square, 0, 0, 10, 0, 0.1)).toEqual([]);
    expect(insideIntervals(square, 2, 0, 8, 0, -0.1)).toEqual([[0, 1]]);
    expect(insideIntervals(square, 2, -0.05, 8, -0.05, -0.1)).toEqual([[0, 1]]);
    expect(insideIntervals(square, 2, -0.5, 8, -0.5, -0.1)).toEqual([]);
    expect(distanceToOutline(square, 5, 4)).toBe(4);
  });
  it('tells upright boxes from other four-sided shapes', () => {
    expect(isUprightBox(makeRegion([boxRing([0, 0, 4, 2])], 'nonzero'))).toBe(true);
    expect(isUprightBox(makeRegion([[...boxRing([0, 0, 4, 2]), [0, 0]]], 'nonzero'))).toBe(true);
    expect(
      isUprightBox(
        makeRegion(
          [
            [
              [0, 0],
              [4, 1],
              [4, 3],
              [0, 2],
            ],
          ],
          'nonzero',
        ),
      ),
    ).toBe(false);
    expect(isUprightBox(makeRegion([boxRing([0, 0, 4, 2]), boxRing([9, 9, 10, 10])], 'nonzero'))).toBe(false);
  });
});

describe('intervals', () => {
  const interval = fc
    .tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 }))
    .filter(([a, b]) => a < b)
    .map(([a, b]): Interval => [a / 100, b / 100]);
  const has = (list: readonly Interval[], t: number) => list.some(([a, b]) => t > a && t < b);
  it('intersection and difference agree with asking point by point', () => {
    fc.assert(
      fc.property(fc.array(interval, { maxLength: 3 }), fc.array(interval, { maxLength: 3 }), (a, b) => {
        const both = intersectIntervals(a, b),
          rest = subtractIntervals(a, b);
        for (let i = 0; i < 100; i++) {
          const t = (i + 0.5) / 100;
          expect(has(both, t)).toBe(has(a, t) && has(b, t));
          expect(has(rest, t)).toBe(has(a, t) && !has(b, t));
        }
      }),
    );
  });
});

describe('curves and circles', () => {
  it('a part of a Bézier runs along the whole', () => {
    fc.assert(
      fc.property(
        fc.array(coordinate, { minLength: 8, maxLength: 8 }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (v, from, t) => {
          const cubic = v as unknown as Cubic,
            to = from + (1 - from) * 0.7;
          near(cubicAt(cubicPart(cubic, from, to), t), cubicAt(cubic, from + (to - from) * t), 1e-5);
        },
      ),
    );
  });
  it('the circle through three of its points', () => {
    const c = circleThrough([5, 0], [0, 5], [-5, 0])!;
    expect([c.cx, c.cy, c.r]).toEqual([0, 0, 5].map((v) => expect.closeTo(v, 12)));
    expect(circleThrough([0, 0], [1, 1], [2, 2])).toBeNull();
  });
  it('angles come into one turn', () =>
    fc.assert(
      fc.property(fc.double({ min: -1e3, max: 1e3, noNaN: true }), (a) => {
        const n = normalAngle(a);
        expect(n >= 0 && n < 2 * Math.PI + 1e-12).toBe(true);
        expect(Math.cos(n)).toBeCloseTo(Math.cos(a), 9);
      }),
    ));
});

describe('unions', () => {
  const area = (polygons: ReturnType<typeof unionOf>) =>
    polygons.reduce(
      (s, rings) => s + rings.reduce((t, r, i) => t + (i ? -1 : 1) * Math.abs(ringArea(r)), 0),
      0,
    );
  it('of two overlapping boxes, far from the origin, is exact', () => {
    expect(
      area(
        unionOf([boxRing([1e7, 1e7, 1e7 + 10, 1e7 + 10]), boxRing([1e7 + 5, 1e7 + 5, 1e7 + 15, 1e7 + 15])]),
      ),
    ).toBeCloseTo(175, 3);
  });
  it('has no corners where there are none', () =>
    expect(unionOf([boxRing([0, 0, 5, 5]), boxRing([5, 0, 9, 5])])[0][0]).toHaveLength(4));
  it('of nothing is nothing', () => expect(unionOf([])).toEqual([]));
  it('a spike of no width is dropped, wherever its ring begins', () => {
    const ring: [number, number][] = [
      [0, 0],
      [900, 0],
      [900, 300],
      [400, 300],
      [400, 1200],
      [400 + 1e-7, 300],
      [0, 300],
    ];
    for (let first = 0; first < ring.length; first++)
      expect(cleanRing([...ring.slice(first), ...ring.slice(0, first)])).toHaveLength(4);
  });
  it('a ring that comes back upon itself along a line is two, each with its hole', () => {
    const hole = (x: number): Ring => [...boxRing([x, 100, x + 100, 200])].reverse();
    const parts = partedAtPinches([
      [
        [0, 0],
        [300, 0],
        [300, 300],
        [500, 300],
        [500, 0],
        [800, 0],
        [800, 600],
        [500, 600],
        [500, 300],
        [300, 300],
        [300, 600],
        [0, 600],
      ],
      hole(600),
      hole(100),
    ]);
    expect(parts).toHaveLength(2);
    for (const part of parts) {
      expect(part).toHaveLength(2);
      expect(area([part])).toBe(300 * 600 - 100 * 100);
    }
    const plain = [boxRing([0, 0, 9, 9]), hole(3)];
    expect(partedAtPinches(plain)).toEqual([plain]);
  });
  it('is never smaller than its largest part nor larger than all together', () => {
    const box = fc.tuple(
      fc.integer({ min: 0, max: 50 }),
      fc.integer({ min: 0, max: 50 }),
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 30 }),
      fc.double({ min: 0, max: 3, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(box, { minLength: 1, maxLength: 6 }), (raw) => {
        const rings = raw.map(([x, y, w, h, a]) =>
          boxRing([x, y, x + w, y + h]).map((p) => applyTransform(rotationAbout(a, [25, 25]), p)),
        );
        const areas = rings.map((r) => Math.abs(ringArea(r)));
        const all = area(unionOf(rings));
        expect(all).toBeGreaterThan(Math.max(...areas) - 1e-2);
        expect(all).toBeLessThan(areas.reduce((s, v) => s + v, 0) + 1e-2);
      }),
    );
  });
});

describe('the side of a line', () => {
  const whole = fc.integer({ min: -(2 ** 45), max: 2 ** 45 });
  it('is that of exact figures, also for points a bit beside a long line', () => {
    fc.assert(
      fc.property(
        fc.tuple(whole, whole, whole, whole),
        fc.integer({ min: 0, max: 64 }),
        fc.tuple(fc.integer({ min: -1, max: 1 }), fc.integer({ min: -1, max: 1 })),
        ([ax, ay, bx, by], share, [ex, ey]) => {
          const x = Math.round(ax + ((bx - ax) * share) / 64) + ex,
            y = Math.round(ay + ((by - ay) * share) / 64) + ey;
          const big = BigInt;
          const exact = (big(bx) - big(ax)) * (big(y) - big(ay)) - (big(by) - big(ay)) * (big(x) - big(ax));
          expect(Math.sign(sideOf(ax, ay, bx, by, x, y))).toBe(exact > 0n ? 1 : exact < 0n ? -1 : 0);
        },
      ),
      { numRuns: 3000 },
    );
  });
  it('a point lies in one of two regions that share an edge, wherever that edge runs', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e5, max: 1e6, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        (far, low, high, t) => {
          const [from, to]: Point[] = [
            [far + low, far],
            [far + high, far + 1],
          ];
          const left = makeRegion([[[far, far], from, to, [far, far + 1]]], 'nonzero'),
            right = makeRegion([[from, [far + 1, far], [far + 1, far + 1], to]], 'nonzero');
          const x = from[0] + t * (to[0] - from[0]),
            y = from[1] + t * (to[1] - from[1]);
          if (y <= far || y >= far + 1) return;
          expect([regionContains(left, x, y), regionContains(right, x, y)].filter(Boolean)).toHaveLength(1);
        },
      ),
      { numRuns: 5000 },
    );
  });
});

describe('regions of many edges', () => {
  it('hold the very points that going through every edge says they hold', () => {
    const pair = fc.tuple(
      fc.double({ min: -50, max: 50, noNaN: true }),
      fc.integer({ min: -20, max: 20 }).map((n) => n * 2.5),
    );
    fc.assert(
      fc.property(
        fc.array(pair, { minLength: 260, maxLength: 400 }),
        fc.array(pair, { minLength: 30, maxLength: 60 }),
        fc.constantFrom('nonzero' as const, 'evenodd' as const),
        (ring, points, rule) => {
          const region = makeRegion([ring], rule);
          for (const [x, y] of [...points, ...ring.slice(0, 20)]) {
            let winding = 0;
            ring.forEach(([x1, y1], i) => {
              const [x0, y0] = ring[(i + ring.length - 1) % ring.length];
              if (y0 > y === y1 > y) return;
              const turn = y1 > y0 ? 1 : -1;
              if (sideOf(x0, y0, x1, y1, x, y) * turn > 0) winding += turn;
            });
            expect(regionContains(region, x, y)).toBe(rule === 'evenodd' ? winding % 2 !== 0 : winding !== 0);
            const far = distanceToOutline(region, x, y);
            for (const within of [far / 2, far, far * 1.01 + 1e-9, 3])
              expect(outlineIsWithin(region, x, y, within)).toBe(far < within);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('cut a line into the parts that lie within, as asking point by point tells, whatever the outline does', () => {
    const pair = fc.tuple(
      fc.double({ min: -50, max: 50, noNaN: true }),
      fc.integer({ min: -20, max: 20 }).map((n) => n * 2.5),
    );
    fc.assert(
      fc.property(
        fc.array(pair, { minLength: 3, maxLength: 300 }),
        pair,
        pair,
        fc.constantFrom('nonzero' as const, 'evenodd' as const),
        (ring, from, to, rule) => {
          fc.pre(Math.hypot(to[0] - from[0], to[1] - from[1]) > 1e-3);
          const region = makeRegion([ring], rule),
            parts = insideIntervals(region, from[0], from[1], to[0], to[1], 0);
          for (let i = 0; i < 60; i++) {
            const t = (i + 0.37) / 60,
              x = from[0] + t * (to[0] - from[0]),
              y = from[1] + t * (to[1] - from[1]);
            // On the outline itself, and where it crosses, either is right.
            if (distanceToOutline(region, x, y) < 1e-6) continue;
            expect(parts.some(([a, b]) => t > a && t < b)).toBe(regionContains(region, x, y));
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});
