import { describe, expect, it } from 'vitest';
import { readAskedScale } from '../src/stages/calibrate/asked-scale.ts';
import { isOf } from '../src/stages/calibrate/fit-card.tsx';

/** An A3 page, points. */
const A3 = { width: (420 / 25.4) * 72, height: (297 / 25.4) * 72 };

describe('a scale that is said of a sheet that lies already', () => {
  it.each([
    ['1:100', 1, 100],
    ['1 : 50', 7, 50],
    ['1/4" = 1\'-0"', 1, 48],
    ['100', 1, 100],
    ['×2', 50, 100],
    ['x 0,5', 50, 25],
    ['2x', 50, 100],
    ['2 times', 50, 100],
    ['50 %', 100, 50],
    ['200%', 50, 100],
    // Drawn on A1 at 1:100, printed on A3: twice as small.
    ['A1', 100, 200.238],
    ['a3', 100, 100],
    ['Letter', 1, 279 / 420],
  ])('%s', (text, now, factor) =>
    expect(readAskedScale(text, now, A3)).toEqual({ ok: true, factor: expect.closeTo(factor, 2) as number }),
  );

  it.each([['one hundred'], ['0'], ['×0'], ['1:0'], ['-5'], ['1:99999999999'], ['%'], ['A9']])(
    '%s is refused in words',
    (text) => {
      const asked = readAskedScale(text, 100, A3);
      expect(asked.ok).toBe(false);
      if (!asked.ok) expect(asked.why.length).toBeGreaterThan(20);
    },
  );
});

it('a printed dimension is known by its ends, or by its figure and nearly its ends', () => {
  const printed = { from: [100, 50], to: [400, 50], millimetres: 10583, half: 0.5, points: 300 } as const;
  expect(isOf({ from: [100.5, 50], to: [399, 50.5], printed: 9000 }, printed)).toBe(true);
  expect(isOf({ from: [408, 52], to: [93, 49], printed: 10583 }, printed)).toBe(true);
  expect(isOf({ from: [108, 52], to: [393, 49], printed: 9000 }, printed)).toBe(false);
  expect(isOf({ from: [100, 250], to: [400, 250], printed: 10583 }, printed)).toBe(false);
});
