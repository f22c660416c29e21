import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitInkAt, type InkFit } from '@calque/core/ink';
import { chanceFrom } from './given-plan.ts';
import { Painting } from './given-raster.ts';

const SIZE = 200;
type Point = [number, number];
const up = ([x, y]: readonly [number, number]): Point => [x, SIZE - y];
/** An arc drawn as many short strokes, y down. */
function drawArc(
  p: Painting,
  [cx, cy]: Point,
  r: number,
  from: number,
  sweep: number,
  width: number,
): Painting {
  const n = Math.max(8, Math.ceil(r * Math.abs(sweep)));
  const at = (i: number): Point => [
    cx + r * Math.cos(from + (sweep * i) / n),
    cy + r * Math.sin(from + (sweep * i) / n),
  ];
  for (let i = 0; i < n; i++) p.line(at(i - 0.3), at(i + 1.3), width);
  return p;
}
const line = (fits: InkFit[], i = 0) => fits[i] as Extract<InkFit, { kind: 'line' }>;
const arc = (fits: InkFit[]) => fits[0] as Extract<InkFit, { kind: 'arc' }>;
const off = ([px, py]: readonly [number, number], [ax, ay]: Point, [bx, by]: Point) =>
  Math.abs((bx - ax) * (py - ay) - (by - ay) * (px - ax)) / Math.hypot(bx - ax, by - ay);

describe('ink under the cursor', () => {
  it('of a straight stroke is a line, to a small part of a pixel, whatever its angle, width, noise and paper', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.double({ min: 1.5, max: 6, noNaN: true }),
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 0, max: 60 }),
        (angle, width, noise, dim) => {
          const [dx, dy] = [70 * Math.cos(angle), 70 * Math.sin(angle)],
            a: Point = [100.3 - dx, 99.8 - dy],
            b: Point = [100.3 + dx, 99.8 + dy];
          const raster = new Painting(SIZE, SIZE).line(a, b, width).raster({
            noise,
            chance: chanceFrom(Math.round(angle * 1e6) + noise),
            paper: (x) => 250 - dim - 0.1 * x,
          });
          const fits = fitInkAt(raster, 103, 97, 12);
          expect(fits.map((f) => f.kind)).toEqual(['line']);
          const { from, to, stray } = line(fits);
          expect(Math.max(off(up(from), a, b), off(up(to), a, b))).toBeLessThan(0.2);
          expect(Math.abs(Math.hypot(to[0] - from[0], to[1] - from[1]) - 140)).toBeLessThan(8);
          expect(stray).toBeLessThan(0.4);
        },
      ),
      { numRuns: 80 },
    );
  });
  it('of a bent stroke is an arc with its centre and radius, of a closed one a circle', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 18, max: 80, noNaN: true }),
        fc.double({ min: 0, max: 6.2, noNaN: true }),
        fc.double({ min: 1.2, max: 5, noNaN: true }),
        fc.double({ min: 1.6, max: 4, noNaN: true }),
        fc.integer({ min: 0, max: 25 }),
        (r, from, sweep, width, noise) => {
          const raster = drawArc(new Painting(SIZE, SIZE), [100.4, 99.7], r, from, sweep, width).raster({
            noise,
            chance: chanceFrom(Math.round(r * 1e6)),
          });
          const middle = from + sweep / 2,
            fits = fitInkAt(raster, 100.4 + r * Math.cos(middle) + 2, 99.7 + r * Math.sin(middle) - 2, 12);
          expect(fits.map((f) => f.kind)).toEqual(['arc']);
          const { cx, cy, r: found, start, end } = arc(fits),
            rise = r * (1 - Math.cos(Math.min(Math.PI, sweep / 2))),
            slack = 0.35 + (0.45 * r) / rise;
          expect(Math.hypot(cx - 100.4, SIZE - cy - 99.7)).toBeLessThan(slack);
          expect(Math.abs(found - r)).toBeLessThan(slack);
          expect(Math.abs((end - start) * r - sweep * r)).toBeLessThan(5 + 0.1 * r);
          // On the sheet, where y goes up, it begins where the drawn one ends.
          expect(Math.cos(start + from + sweep)).toBeGreaterThan(0.95);
        },
      ),
      { numRuns: 80 },
    );
    const whole = arc(
      fitInkAt(drawArc(new Painting(SIZE, SIZE), [90, 110], 45, 0, 6.2831, 2).raster(), 134, 112, 12),
    );
    expect([whole.start, whole.end]).toEqual([0, 2 * Math.PI]);
    expect(Math.hypot(whole.cx - 90, whole.cy - 90)).toBeLessThan(0.1);
  });
  it('where two strokes meet is a corner: both end in where their middles cross', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.2, noNaN: true }),
        fc.double({ min: 0.6, max: 2.4, noNaN: true }),
        fc.double({ min: 1.6, max: 4, noNaN: true }),
        (angle, between, width) => {
          const end = (a: number): Point => [100 + 75 * Math.cos(a), 100 + 75 * Math.sin(a)];
          const raster = new Painting(SIZE, SIZE)
            .line([100, 100], end(angle), width)
            .line([100, 100], end(angle + between), width)
            .dot([100, 100], width / 2)
            .raster();
          const fits = fitInkAt(raster, 100 + 3 * Math.cos(angle), 100 + 3 * Math.sin(angle), 12);
          expect(fits.map((f) => f.kind)).toEqual(['line', 'line']);
          for (const f of [line(fits), line(fits, 1)])
            expect(Math.min(...[f.from, f.to].map((p) => Math.hypot(p[0] - 100, p[1] - 100)))).toBeLessThan(
              0.6,
            );
        },
      ),
      { numRuns: 60 },
    );
  });
  it('is the stroke at the cursor, not a longer one farther off, and goes on through what crosses it', () => {
    const painting = new Painting(SIZE, SIZE).line([10, 60], [190, 60], 3).line([10, 90], [190, 90], 3);
    for (let x = 20; x < 190; x += 20) painting.line([x, 70], [x + 6, 130], 2);
    const fit = line(fitInkAt(painting.raster(), 110, 91, 10));
    expect([fit.from, fit.to].map((p) => Math.round(up(p)[1]))).toEqual([90, 90]);
    expect(Math.abs(fit.from[0] - fit.to[0])).toBeGreaterThan(176);
  });
  it('is nothing on bare paper, by a speck, or too far off', () => {
    expect(fitInkAt(new Painting(SIZE, SIZE).raster(), 100, 100, 12)).toEqual([]);
    expect(
      fitInkAt(
        new Painting(SIZE, SIZE).dot([100, 100], 2).line([10, 10], [190, 12], 2).raster(),
        100,
        100,
        12,
      ),
    ).toEqual([]);
    expect(fitInkAt(new Painting(SIZE, SIZE).line([10, 60], [190, 60], 3).raster(), 100, 90, 12)).toEqual([]);
  });
});
