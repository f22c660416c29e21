import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alignByPoints, stretchPlacement, withoutScaling } from '@calque/core/calibration';
import {
  applyTransform,
  compose,
  meanScale,
  rotationAbout,
  scalingAbout,
  translation,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { tracedLength } from '@calque/core/building';
import { groundStorey, modelOf, type Wall } from '@calque/core/model';

const coordinate = fc.double({ min: -50000, max: 50000, noNaN: true });
const turn = fc.double({ min: -3.1, max: 3.1, noNaN: true });
const POINTS: Point[] = [
  [0, 0],
  [24600, 0],
  [24600, 13800],
  [300, 9000],
];
const near = (a: readonly number[], b: readonly number[], within: number) =>
  expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(within);

describe('aligning by common points', () => {
  it('one pair shifts', () => {
    const outcome = alignByPoints([{ from: [10, 20], to: [110, 15] }], true);
    expect(outcome).toMatchObject({
      ok: true,
      alignment: { move: translation(100, -5), rms: 0, scale: 1, radians: 0 },
    });
  });

  it('finds any turn, shift and scale again', () => {
    fc.assert(
      fc.property(
        turn,
        coordinate,
        coordinate,
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        (radians, x, y, k) => {
          const truth = compose(
            translation(x, y),
            compose(rotationAbout(radians, [0, 0]), scalingAbout(k, [0, 0])),
          );
          const outcome = alignByPoints(
            POINTS.map((from) => ({ from, to: applyTransform(truth, from) })),
            true,
          );
          if (!outcome.ok) throw new Error(outcome.reason);
          for (const p of POINTS)
            near(applyTransform(outcome.alignment.move, p), applyTransform(truth, p), 1e-5);
          expect(outcome.alignment.scale).toBeCloseTo(k, 9);
          expect(outcome.alignment.rms).toBeLessThan(1e-5);
        },
      ),
    );
  });

  it('without scaling keeps every length, and lays the middles on one another', () => {
    fc.assert(
      fc.property(
        turn,
        coordinate,
        coordinate,
        fc.double({ min: 0.9, max: 1.1, noNaN: true }),
        (radians, x, y, k) => {
          const truth = compose(
            translation(x, y),
            compose(rotationAbout(radians, [0, 0]), scalingAbout(k, [0, 0])),
          );
          const outcome = alignByPoints(
            POINTS.map((from) => ({ from, to: applyTransform(truth, from) })),
            false,
          );
          if (!outcome.ok) throw new Error(outcome.reason);
          expect(meanScale(outcome.alignment.move)).toBeCloseTo(1, 12);
          const middle: Point = [
            POINTS.reduce((s, p) => s + p[0], 0) / 4,
            POINTS.reduce((s, p) => s + p[1], 0) / 4,
          ];
          near(applyTransform(outcome.alignment.move, middle), applyTransform(truth, middle), 1e-4);
        },
      ),
    );
  });

  it('says how far each pair misses', () => {
    const outcome = alignByPoints(
      [
        { from: [0, 0], to: [0, 0] },
        { from: [1000, 0], to: [1010, 0] },
      ],
      false,
    );
    expect(outcome).toMatchObject({ ok: true, alignment: { residuals: [5, 5], rms: 5 } });
  });

  it('refuses no pairs, and points that lie on one another', () => {
    expect(alignByPoints([], false)).toEqual({ ok: false, reason: 'none' });
    expect(
      alignByPoints(
        [
          { from: [5, 5], to: [0, 0] },
          { from: [5, 5], to: [10, 0] },
        ],
        false,
      ),
    ).toEqual({ ok: false, reason: 'points-together' });
  });
});

describe('moves', () => {
  it('lose their scaling about a point', () => {
    const move = compose(
      translation(700, -30),
      compose(rotationAbout(0.4, [0, 0]), scalingAbout(1.02, [0, 0])),
    );
    const about: Point = [1234, 567];
    const rigid = withoutScaling(move, about);
    expect(meanScale(rigid)).toBeCloseTo(1, 12);
    near(applyTransform(rigid, about), applyTransform(move, about), 1e-9);
    expect(Math.atan2(rigid[1], rigid[0])).toBeCloseTo(0.4, 12);
  });

  it('a placement is stretched along the plane about a point that stays', () => {
    const placement: Transform = [10, 0, 0, 10, 5, 7];
    const stretched = stretchPlacement(placement, 1.01, 1, [105, 7]);
    near(applyTransform(stretched, [10, 0]), [105, 7], 1e-9);
    near(applyTransform(stretched, [110, 0]), [105 + 1010, 7], 1e-9);
    expect(stretched[3]).toBe(10);
  });
});

describe('a dimension in the trace', () => {
  const wall = (
    id: string,
    from: [number, number],
    to: [number, number],
    thickness: number,
    alignment: Wall['alignment'] = 'centre',
  ): Wall => ({
    type: 'wall',
    id,
    planeId: 'ground',
    from,
    to,
    thickness,
    alignment,
    height: 2700,
    heightAssumed: true,
    source: { underlayId: null, ends: 'typed', thickness: 'typed' },
  });
  const model = modelOf([
    groundStorey('ground'),
    wall('west', [0, 0], [0, 4000], 200),
    wall('east', [5000, 4000], [5000, 0], 100, 'left'),
    wall('south', [0, 0], [5000, 0], 200),
  ]);

  it('is taken between the faces and ends that lie nearest to its own ends', () => {
    expect(tracedLength(model, 'ground', [110, -900], [4890, -900])).toBeCloseTo(4800, 9);
    expect(tracedLength(model, 'ground', [5010, -900], [-95, -900])).toBeCloseTo(5100, 9);
    expect(tracedLength(model, 'ground', [-700, 20], [-700, 4010])).toBeCloseTo(4000, 9);
  });
  it('is not there where nothing was traced near one of its ends, or on another storey', () => {
    expect(tracedLength(model, 'ground', [110, -900], [2500, -900])).toBeNull();
    expect(tracedLength(model, 'upper', [110, -900], [4890, -900])).toBeNull();
    expect(tracedLength(model, 'ground', [7, 7], [7, 7])).toBeNull();
  });
});
