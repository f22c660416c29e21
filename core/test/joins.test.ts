import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bandOf, joinWalls, plainBody, pointAt } from '@calque/core/building';
import {
  regionContains,
  makeRegion,
  ringArea,
  unionOf,
  type Point,
  type Polygon,
} from '@calque/core/geometry';
import { type Wall, type WallAlignment } from '@calque/core/model';
import { missing } from './missing.ts';

const wall = (
  id: string,
  from: Point,
  to: Point,
  thickness = 200,
  alignment: WallAlignment = 'centre',
): Wall => ({
  type: 'wall',
  id,
  planeId: 'g',
  from: [from[0], from[1]],
  to: [to[0], to[1]],
  thickness,
  alignment,
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});
const area = (polygons: readonly Polygon[]) =>
  polygons.reduce(
    (s, rings) => s + rings.reduce((t, r, i) => t + (i === 0 ? 1 : -1) * Math.abs(ringArea(r)), 0),
    0,
  );
const contains = (polygons: readonly Polygon[], [x, y]: Point) =>
  polygons.some((rings) => regionContains(makeRegion(rings, 'evenodd'), x, y));

describe('joined walls', () => {
  it('a closed ring is one outline with one hole, its area that of the mitred frame', () => {
    const c: Point[] = [
      [0, 0],
      [6000, 0],
      [6000, 4000],
      [0, 4000],
    ];
    const { outlines } = joinWalls(c.map((p, i) => wall(`${i}`, p, c[(i + 1) % 4])));
    expect(outlines).toHaveLength(1);
    expect(outlines[0]).toHaveLength(2);
    expect(area(outlines)).toBeCloseTo(6200 * 4200 - 5800 * 3800, 3);
    expect(outlines[0].map((r) => r.length)).toEqual([4, 4]);
  });

  it('faces keep to the drawn line for every alignment', () => {
    const c: Point[] = [
      [0, 0],
      [6000, 0],
      [6000, 4000],
      [0, 4000],
    ];
    const ring = (a: WallAlignment) =>
      area(joinWalls(c.map((p, i) => wall(`${i}`, p, c[(i + 1) % 4], 200, a))).outlines);
    // Drawn counter-clockwise: the left face looks inwards.
    expect(ring('left')).toBeCloseTo(6400 * 4400 - 6000 * 4000, 3);
    expect(ring('right')).toBeCloseTo(6000 * 4000 - 5600 * 3600, 3);
  });

  it('a tee reaches the near face and no farther, at any angle, drawn to the middle line or to the face', () => {
    for (const degrees of [90, 60, 35, 120, 145]) {
      for (const stop of [0, 150]) {
        const a = (degrees * Math.PI) / 180;
        const foot: Point = [5000 + stop / Math.tan(a), stop];
        const far: Point = [foot[0] + 3000 * Math.cos(a), foot[1] + 3000 * Math.sin(a)];
        const { outlines } = joinWalls([
          wall('through', [0, 0], [10000, 0], 300),
          wall('tee', far, foot, 100),
        ]);
        expect(outlines).toHaveLength(1);
        expect(outlines[0]).toHaveLength(1);
        // Nothing comes out on the far side of the wall it runs into.
        expect(Math.min(...outlines[0][0].map((p) => p[1]))).toBeCloseTo(-150, 6);
        const mid = (foot[1] === 0 ? 3000 - 150 / Math.sin(a) : 3000) * 100;
        expect(area(outlines)).toBeCloseTo(10000 * 300 + mid, 0);
      }
    }
  });

  it('two walls at any angle: no gap at the node, no overlap of the bodies', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 12, max: 348 }),
        fc.integer({ min: 60, max: 400 }),
        fc.integer({ min: 60, max: 400 }),
        fc.constantFrom<WallAlignment>('centre', 'left', 'right'),
        (degrees, t1, t2, align) => {
          const a = (degrees * Math.PI) / 180;
          const end: Point = [6000 * Math.cos(a), 6000 * Math.sin(a)];
          const { bodies, outlines } = joinWalls([
            wall('a', [6000, 0], [0, 0], t1, align),
            wall('b', [0, 0], end, t2, align),
          ]);
          expect(outlines).toHaveLength(1);
          const sum = [...bodies.values()].reduce((s, r) => s + Math.abs(ringArea(r)), 0);
          // Wedges fill sharp outer corners, so the outline may hold a little more, never less.
          expect(area(outlines)).toBeGreaterThan(sum - 1);
          expect(area(outlines)).toBeLessThan(sum + t1 * t2 * 2);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('covers every wall along its whole length, whatever the walls', () => {
    const grid = fc.integer({ min: 0, max: 12 }).map((n) => n * 700);
    const point = fc.tuple(grid, grid);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(point, point, fc.constantFrom(80, 150, 300)), { minLength: 1, maxLength: 9 }),
        (raw) => {
          const walls = raw
            .filter(([p, q]) => Math.hypot(q[0] - p[0], q[1] - p[1]) > 600)
            .map(([p, q, t], i) => wall(`${i}`, p, q, t));
          const { outlines } = joinWalls(walls);
          for (const w of walls) {
            const band = bandOf(w);
            // Near its ends a wall is cut to its neighbours: by up to three of the thickest here.
            for (const s of [0.25, 0.4, 0.5, 0.65, 0.75]
              .map((f) => f * band.length)
              .filter((d) => d > 950 && band.length - d > 950)) {
              expect(contains(outlines, pointAt(band, s, 0.37))).toBe(true);
            }
          }
        },
      ),
      { numRuns: 200 },
    );
  });

  it('leaves no hole in what the walls are by themselves, where they stand square: staggered tees, corners that overlap, short ends', () => {
    const step = fc.integer({ min: 0, max: 40 }).map((n) => n * 50);
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            step,
            step,
            fc.integer({ min: 8, max: 60 }).map((n) => n * 50),
            fc.boolean(),
            fc.constantFrom(100, 150, 240, 300),
            fc.constantFrom<WallAlignment>('centre', 'left', 'right'),
          ),
          { minLength: 2, maxLength: 7 },
        ),
        (raw) => {
          const walls = raw.map(([x, y, length, across, t, align], i) =>
            wall(`${i}`, [x, y], across ? [x + length, y] : [x, y + length], t, align),
          );
          const { outlines } = joinWalls(walls),
            bodies = unionOf(walls.map((w) => plainBody(bandOf(w))));
          expect(missing(bodies, outlines)).toBeLessThan(1);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('walls that do not touch stay apart', () => {
    expect(
      joinWalls([wall('a', [0, 0], [1000, 0]), wall('b', [0, 2000], [1000, 2000])]).outlines,
    ).toHaveLength(2);
  });
});
