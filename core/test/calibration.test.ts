import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  calibrateByLength,
  carryAlong,
  evaluateCheck,
  levellingTurn,
  measuredLength,
  movePointTo,
  placeAtScale,
  scaleFactorOf,
  turnPlacement,
} from '@calque/core/calibration';
import { applyTransform, compose, invertTransform, rotationAbout, type Point } from '@calque/core/geometry';
import { chanceFrom } from './given-plan.ts';

const at = fc.tuple(
  fc.double({ min: 0, max: 3000, noNaN: true }),
  fc.double({ min: 0, max: 2000, noNaN: true }),
);

describe('calibration', () => {
  it('an A3 plan at 1:100: 697.323 points of paper are 24600 mm', () => {
    const paper = placeAtScale(1, [0, 0], [0, 0]);
    const result = calibrateByLength(paper, [175.748, 660.472], [873.071, 660.472], 24600);
    if (!result.ok) throw new Error(result.reason);
    expect(result.scale).toBeCloseTo(100, 2);
    expect(result.oldLength).toBeCloseTo(246, 2);
    expect(result.newLength).toBeCloseTo(24600, 9);
  });
  it('the first point stays, the length becomes true, angles stay, whatever the placement', () => {
    fc.assert(
      fc.property(
        at,
        at,
        fc.double({ min: 1, max: 1e5, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (p, q, length, turn) => {
          fc.pre(Math.hypot(p[0] - q[0], p[1] - q[1]) > 1);
          const before = turnPlacement(placeAtScale(50, [0, 0], [100, 200]), turn, [0, 0]);
          const result = calibrateByLength(before, p, q, length);
          if (!result.ok) throw new Error(result.reason);
          const [a, b] = [applyTransform(before, p), applyTransform(result.placement, p)];
          expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(1e-6);
          expect(Math.abs(measuredLength(result.placement, p, q) / length - 1)).toBeLessThan(1e-9);
          expect(Math.atan2(result.placement[1], result.placement[0])).toBeCloseTo(
            Math.atan2(before[1], before[0]),
            9,
          );
        },
      ),
    );
  });
  it('refuses picks on one point and lengths that are none', () => {
    const paper = placeAtScale(1, [0, 0], [0, 0]);
    expect(calibrateByLength(paper, [5, 5], [5, 5], 100)).toEqual({ ok: false, reason: 'points-together' });
    expect(calibrateByLength(paper, [5, 5], [50, 5], 0)).toEqual({
      ok: false,
      reason: 'length-not-positive',
    });
    expect(calibrateByLength(paper, [5, 5], [50, 5], NaN)).toMatchObject({ ok: false });
  });
});

describe('turn and place', () => {
  it('levels an edge to the nearer axis, never by more than an eighth of a turn', () => {
    fc.assert(
      fc.property(at, at, (p, q) => {
        fc.pre(Math.hypot(p[0] - q[0], p[1] - q[1]) > 1);
        const paper = placeAtScale(100, [0, 0], [0, 0]);
        const radians = levellingTurn(paper, p, q, 'nearest');
        expect(Math.abs(radians)).toBeLessThanOrEqual(Math.PI / 4 + 1e-9);
        const after = turnPlacement(paper, radians, [0, 0]);
        const [a, b] = [applyTransform(after, p), applyTransform(after, q)];
        expect(Math.min(Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1]))).toBeLessThan(
          1e-6 * Math.hypot(a[0] - b[0], a[1] - b[1]) + 1e-6,
        );
      }),
    );
  });
  it('four quarter turns are none, to the last bit', () => {
    const quarter = rotationAbout(Math.PI / 2, [3, 7]);
    expect(compose(quarter, compose(quarter, compose(quarter, quarter))).map((v) => v + 0)).toEqual([
      1, 0, 0, 1, 0, 0,
    ]);
  });
  it('puts a point on the origin and keeps the scale', () => {
    const before = placeAtScale(48, [0, 0], [10, 20]);
    const after = movePointTo(before, [100, 200], [0, 0]);
    expect(applyTransform(after, [100, 200]).map((v) => Math.round(v * 1e9) + 0)).toEqual([0, 0]);
    expect(scaleFactorOf(after)).toBeCloseTo(48, 12);
  });
  it('what is carried along lies over the same point of the sheet', () => {
    fc.assert(
      fc.property(at, (p: Point) => {
        const before = placeAtScale(1, [0, 0], [0, 0]),
          after = turnPlacement(placeAtScale(97.3, [5, 5], [1, 1]), 0.4, [0, 0]);
        const plane = applyTransform(before, p);
        const moved = applyTransform(carryAlong(before, after), plane);
        const back = applyTransform(invertTransform(after), moved);
        expect(Math.hypot(back[0] - p[0], back[1] - p[1])).toBeLessThan(1e-8);
      }),
    );
  });
});

describe('a check', () => {
  const perPoint = (factor: number) => factor * (25.4 / 72);
  const check = (
    factor: number,
    measured: number,
    printed: number,
    sigma: [number, number] = [0.03, 0.03],
    lengthSigma = 0.29,
    share = 0,
  ) =>
    evaluateCheck(
      placeAtScale(factor, [0, 0], [0, 0]),
      { from: [0, 0], to: [measured / perPoint(factor), 0], millimetres: printed, sigma, lengthSigma },
      share,
    );

  it('says printed against measured', () => {
    expect(check(100, 3400, 4300)).toMatchObject({
      agrees: false,
      measured: expect.closeTo(3400, 6),
      difference: expect.closeTo(-900, 6),
      percent: expect.closeTo(-20.93, 2),
    });
    expect(check(100, 3400, 3401).agrees).toBe(true);
  });

  it('agrees within what its picks and the stated error allow, not within a share of its length', () => {
    // 1:103.05 where 1:102.775 is true: 11 200 measures 30 mm too much.
    expect(check(102.775, 11169.5, 11200).agrees).toBe(false);
    expect(check(102.775, 11197, 11200).agrees).toBe(true);
    // Picked by eye on a scan, where a pixel is 10 mm.
    expect(check(100, 5009, 5000).agrees).toBe(false);
    expect(check(100, 5009, 5000, [0.25, 0.25]).agrees).toBe(true);
    expect(check(100, 5050, 5000, [0.25, 0.25]).agrees).toBe(false);
    // A sheet that says it may be off by 15 mm in 10 m.
    expect(check(100, 5009, 5000, undefined, undefined, 0.0015).agrees).toBe(true);
    // A part at true size is not let off with two millimetres.
    expect(check(1, 41, 40).agrees).toBe(false);
  });

  it('agrees in 99 of 100 where only chance moves its ends', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const chance = chanceFrom(seed),
          normal = () => Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(2 * Math.PI * chance());
        let agreeing = 0;
        for (let i = 0; i < 1000; i++) {
          const sigma: [number, number] = [0.03 + 0.4 * chance(), 0.03 + 0.4 * chance()];
          if (
            check(
              50,
              6000 + perPoint(50) * (sigma[0] * normal() + sigma[1] * normal()) + 0.29 * normal(),
              6000,
              sigma,
            ).agrees
          )
            agreeing++;
        }
        expect(agreeing).toBeGreaterThan(975);
        expect(agreeing).toBeLessThan(1000);
      }),
      { numRuns: 5 },
    );
  });
});
