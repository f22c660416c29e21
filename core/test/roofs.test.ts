import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  crossesItself,
  distanceToOutline,
  heightAt,
  makeRegion,
  ringArea,
  roofOver,
  volumeOfAll,
  type Point,
} from '@calque/core/geometry';
import { GABLE, kindOf, roofShape, slopedArea, type Pair, type Roof } from '@calque/core/model';
import { enclosedBy, meshOf } from '@calque/core/solids';
import { base } from './given-elements.ts';

const THIRTY = Math.PI / 6;
const rectangle: Pair[] = [
  [0, 0],
  [10000, 0],
  [10000, 6000],
  [0, 6000],
];
const roof = (points: Pair[], pitches: number[], more: Partial<Roof> = {}): Roof => ({
  type: 'roof',
  ...base('roof'),
  points,
  pitches,
  eaves: 2500,
  overhang: 0,
  thickness: 200,
  assumed: [],
  ...more,
});
const facesOf = (e: Roof) => {
  const shape = roofShape(e);
  if ('why' in shape) throw new Error(shape.why);
  return shape;
};

describe('a roof over an outline', () => {
  it('with the same pitch all round it has four hips, its ridge halfway up the narrow side', () => {
    const { faces, ridge } = facesOf(roof(rectangle, [THIRTY, THIRTY, THIRTY, THIRTY]));
    expect(ridge).toBeCloseTo(2500 + 3000 * Math.tan(THIRTY), 6);
    expect(faces.map((f) => [f.side, Math.round(ringArea(f.ring))])).toEqual([
      [0, 21e6],
      [1, 9e6],
      [2, 21e6],
      [3, 9e6],
    ]);
  });
  it('gables at both ends make it a saddle, one pitch alone a lean-to, all of them level a flat roof', () => {
    const saddle = facesOf(roof(rectangle, [THIRTY, GABLE, THIRTY, GABLE]));
    expect(saddle.faces.map((f) => [f.side, ringArea(f.ring)])).toEqual([
      [0, 30e6],
      [2, 30e6],
    ]);
    expect(saddle.faces.reduce((sum, f) => sum + slopedArea(f), 0)).toBeCloseTo(60e6 / Math.cos(THIRTY), 3);
    const leanTo = facesOf(roof(rectangle, [THIRTY, GABLE, GABLE, GABLE]));
    expect(leanTo.faces).toHaveLength(1);
    expect(leanTo.ridge).toBeCloseTo(2500 + 6000 * Math.tan(THIRTY), 6);
    expect(facesOf(roof(rectangle, [0, 0, 0, 0]))).toMatchObject({ ridge: 2500, faces: [{ pitch: 0 }] });
  });
  it('with different pitches its ridge lies nearer to the steeper side', () => {
    const { faces } = facesOf(roof(rectangle, [Math.atan(1), GABLE, Math.atan(0.5), GABLE]));
    // Of six metres the steep plane takes two, the other four.
    expect(faces.map((f) => ringArea(f.ring))).toEqual([
      expect.closeTo(20e6, 3) as number,
      expect.closeTo(40e6, 3) as number,
    ]);
  });
  it('an L has a valley at its inner corner', () => {
    const { faces } = facesOf(
      roof(
        [
          [0, 0],
          [10000, 0],
          [10000, 4000],
          [5000, 4000],
          [5000, 9000],
          [0, 9000],
        ],
        Array.from({ length: 6 }, () => THIRTY),
      ),
    );
    const corners = (side: number) => faces.find((f) => f.side === side)!.ring;
    // Both planes at the inner corner end on one line: from it to where the lower ridge begins.
    for (const side of [2, 3])
      for (const [x, y] of [
        [5000, 4000],
        [3000, 2000],
      ])
        expect(corners(side).some((p) => Math.hypot(p[0] - x, p[1] - y) < 1e-6)).toBe(true);
  });
  it('its edge goes beyond the outline by the overhang; its thickness is measured upright', () => {
    const e = roof(rectangle, [THIRTY, GABLE, THIRTY, GABLE], { overhang: 500 });
    expect(facesOf(e).edge).toEqual([
      [-500, -500],
      [10500, -500],
      [10500, 6500],
      [-500, 6500],
    ]);
    expect(volumeOfAll(kindOf(e).blocks(e))).toBeCloseTo(11000 * 7000 * 200, 1);
  });
  it('what no roof can be made of is told, and drawn by its outline', () => {
    const why = (e: Roof) => {
      const shape = roofShape(e);
      return 'why' in shape ? shape.why : null;
    };
    expect(why(roof(rectangle, [GABLE, GABLE, GABLE, GABLE]))).toMatch(/never meet/);
    expect(why(roof(rectangle, [THIRTY, 0, THIRTY, THIRTY]))).toMatch(/Side 2 has no pitch/);
    const [a, b, c, d] = rectangle;
    const bowTie = roof([a, c, b, d], [THIRTY, THIRTY, THIRTY, THIRTY]);
    expect(why(bowTie)).toMatch(/crosses itself/);
    expect([kindOf(bowTie).pieces(bowTie).length, kindOf(bowTie).blocks(bowTie)]).toEqual([4, []]);
  });
});

describe('whatever the outline', () => {
  const star = fc
    .array(
      fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 3000, max: 9000, noNaN: true })),
      {
        minLength: 3,
        maxLength: 12,
      },
    )
    .map((list) =>
      [...list]
        .sort((p, q) => p[0] - q[0])
        .map(([t, r]): Pair => [40000 + r * Math.cos(2 * Math.PI * t), r * Math.sin(2 * Math.PI * t)]),
    )
    .filter(
      (ring) =>
        !crossesItself(ring) &&
        Math.abs(ringArea(ring)) > 4e6 &&
        ring.every((p, i) => {
          const q = ring[(i + 1) % ring.length],
            r = ring[(i + 2) % ring.length],
            [a, b] = [Math.hypot(q[0] - p[0], q[1] - p[1]), Math.hypot(r[0] - q[0], r[1] - q[1])],
            turn = (q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0]);
          // No spikes that are as good as lines.
          return a > 50 && Math.abs(turn) > 0.01 * a * b;
        }),
    );
  const same = fc.double({ min: 0.1, max: 1.2, noNaN: true });

  it('planes of one pitch cover it once, rise from its sides, and meet at one height wherever they touch', () => {
    fc.assert(
      fc.property(star, same, (ring, pitch) => {
        const plan = roofOver(
          ring,
          ring.map(() => pitch),
        );
        expect(plan).not.toBeNull();
        const areas = plan!.faces.reduce((sum, f) => sum + Math.abs(ringArea(f.ring)), 0);
        expect(areas / Math.abs(ringArea(ring))).toBeCloseTo(1, 6);
        const { faces } = facesOf(
          roof(
            ring,
            ring.map(() => pitch),
          ),
        );
        for (const f of faces)
          for (const p of f.ring)
            for (const other of faces)
              if (other.ring.some((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) < 1e-3))
                expect(Math.abs(heightAt(f.surface, p) - heightAt(other.surface, p))).toBeLessThan(0.05);
      }),
      { numRuns: 200 },
    );
  });
  it('no place of a convex one lies higher than the plane of any side: it is the least of all', () => {
    const convex = fc
      .tuple(fc.integer({ min: 3, max: 9 }), fc.double({ min: 0, max: 6, noNaN: true }), same)
      .map(([n, turn, pitch]) => ({
        pitch,
        ring: Array.from({ length: n }, (_, i): Pair => {
          const a = turn + (2 * Math.PI * i) / n;
          return [9000 * Math.cos(a), 5000 * Math.sin(a)];
        }),
      }));
    fc.assert(
      fc.property(convex, ({ ring, pitch }) => {
        const { faces } = facesOf(
          roof(
            ring,
            ring.map(() => pitch),
          ),
        );
        for (const f of faces) {
          const middle = f.ring.reduce<Point>(
            ([x, y], p) => [x + p[0] / f.ring.length, y + p[1] / f.ring.length],
            [0, 0],
          );
          // Over a convex outline a roof of one pitch is as high as the way to the nearest side makes it.
          const way = distanceToOutline(makeRegion([ring], 'nonzero'), ...middle);
          expect(Math.abs(heightAt(f.surface, middle) - 2500 - way * Math.tan(pitch))).toBeLessThan(0.01);
        }
      }),
      { numRuns: 100 },
    );
  });
  it('with a pitch of its own for each side either covers it, or is told to have no roof; its surface encloses its volume', () => {
    const own = star.chain((ring) =>
      fc.record({
        ring: fc.constant(ring),
        pitches: fc.array(fc.oneof(same, fc.constant(GABLE)), {
          minLength: ring.length,
          maxLength: ring.length,
        }),
      }),
    );
    fc.assert(
      fc.property(own, ({ ring, pitches }) => {
        const e = roof(ring, pitches),
          blocks = kindOf(e).blocks(e);
        if (blocks.length === 0) {
          expect(roofShape(e)).toHaveProperty('why');
          return;
        }
        const plan = Math.abs(ringArea(ring)) * e.thickness,
          volume = volumeOfAll(blocks);
        expect(volume / plan).toBeCloseTo(1, 6);
        expect(enclosedBy(meshOf(blocks)) / volume).toBeCloseTo(1, 6);
      }),
      { numRuns: 200 },
    );
  });
});
