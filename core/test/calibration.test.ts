import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calibrateByLength, carryAlong, evaluateCheck, levellingTurn, measuredLength, movePointTo, placeAtScale, scaleFactorOf, turnPlacement } from '@calque/core/calibration';
import { applyTransform, compose, invertTransform, rotationAbout, type Point } from '@calque/core/geometry';

const at = fc.tuple(fc.double({ min: 0, max: 3000, noNaN: true }), fc.double({ min: 0, max: 2000, noNaN: true }));

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
    fc.assert(fc.property(at, at, fc.double({ min: 1, max: 1e5, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true }), (p, q, length, turn) => {
      fc.pre(Math.hypot(p[0] - q[0], p[1] - q[1]) > 1);
      const before = turnPlacement(placeAtScale(50, [0, 0], [100, 200]), turn, [0, 0]);
      const result = calibrateByLength(before, p, q, length);
      if (!result.ok) throw new Error(result.reason);
      const [a, b] = [applyTransform(before, p), applyTransform(result.placement, p)];
      expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(1e-6);
      expect(Math.abs(measuredLength(result.placement, p, q) / length - 1)).toBeLessThan(1e-9);
      expect(Math.atan2(result.placement[1], result.placement[0])).toBeCloseTo(Math.atan2(before[1], before[0]), 9);
    }));
  });
  it('refuses picks on one point and lengths that are none', () => {
    const paper = placeAtScale(1, [0, 0], [0, 0]);
    expect(calibrateByLength(paper, [5, 5], [5, 5], 100)).toEqual({ ok: false, reason: 'points-together' });
    expect(calibrateByLength(paper, [5, 5], [50, 5], 0)).toEqual({ ok: false, reason: 'length-not-positive' });
    expect(calibrateByLength(paper, [5, 5], [50, 5], NaN)).toMatchObject({ ok: false });
  });
});

describe('turn and place', () => {
  it('levels an edge to the nearer axis, never by more than an eighth of a turn', () => {
    fc.assert(fc.property(at, at, (p, q) => {
      fc.pre(Math.hypot(p[0] - q[0], p[1] - q[1]) > 1);
      const paper = placeAtScale(100, [0, 0], [0, 0]);
      const radians = levellingTurn(paper, p, q, 'nearest');
      expect(Math.abs(radians)).toBeLessThanOrEqual(Math.PI / 4 + 1e-9);
      const after = turnPlacement(paper, radians, [0, 0]);
      const [a, b] = [applyTransform(after, p), applyTransform(after, q)];
      expect(Math.min(Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1]))).toBeLessThan(1e-6 * Math.hypot(a[0] - b[0], a[1] - b[1]) + 1e-6);
    }));
  });
  it('four quarter turns are none, to the last bit', () => {
    const quarter = rotationAbout(Math.PI / 2, [3, 7]);
    expect(compose(quarter, compose(quarter, compose(quarter, quarter))).map((v) => v + 0)).toEqual([1, 0, 0, 1, 0, 0]);
  });
  it('puts a point on the origin and keeps the scale', () => {
    const before = placeAtScale(48, [0, 0], [10, 20]);
    const after = movePointTo(before, [100, 200], [0, 0]);
    expect(applyTransform(after, [100, 200]).map((v) => Math.round(v * 1e9) + 0)).toEqual([0, 0]);
    expect(scaleFactorOf(after)).toBeCloseTo(48, 12);
  });
  it('what is carried along lies over the same point of the sheet', () => {
    fc.assert(fc.property(at, (p: Point) => {
      const before = placeAtScale(1, [0, 0], [0, 0]), after = turnPlacement(placeAtScale(97.3, [5, 5], [1, 1]), 0.4, [0, 0]);
      const plane = applyTransform(before, p);
      const moved = applyTransform(carryAlong(before, after), plane);
      const back = applyTransform(invertTransform(after), moved);
      expect(Math.hypot(back[0] - p[0], back[1] - p[1])).toBeLessThan(1e-8);
    }));
  });
});

it('a check says printed against measured', () => {
  const placement = placeAtScale(100, [0, 0], [0, 0]);
  const points = 3400 / (100 * (25.4 / 72));
  expect(evaluateCheck(placement, [0, 0], [points, 0], 4300)).toMatchObject({ agrees: false, measured: expect.closeTo(3400, 6), difference: expect.closeTo(-900, 6), percent: expect.closeTo(-20.93, 2) });
  expect(evaluateCheck(placement, [0, 0], [points, 0], 3401).agrees).toBe(true);
});

describe('ends that were found on a scan', () => {
  it('agree within what their pixels allow, and not beyond', () => {
    const placement = [10, 0, 0, 10, 0, 0] as const;
    const at = (length: number, sigma?: [number, number]) => evaluateCheck(placement, [0, 0], [length, 0], 1000, sigma).agrees;
    expect(at(100.6)).toBe(false);
    expect(at(100.6, [0.25, 0.25])).toBe(true);
    expect(at(101.2, [0.25, 0.25])).toBe(false);
    expect(at(100.4, [0.001, 0.001])).toBe(true);
  });
});
