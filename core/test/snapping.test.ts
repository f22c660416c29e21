import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildSheetIndex, nearestSegmentDistance, Snapper, traceSnapper, type SnapGeometry } from '@calque/core/snapping';
import type { Linework } from '@calque/core/linework';

const geometry = (parts: Partial<Record<keyof SnapGeometry, number[]>>): SnapGeometry => {
  const of = (k: keyof SnapGeometry) => new Float64Array(parts[k] ?? []);
  return { segments: of('segments'), fillEdges: of('fillEdges'), arcs: of('arcs'), circles: of('circles'), curves: of('curves') };
};
const snapper = (parts: Parameters<typeof geometry>[0]) => {
  const g = geometry(parts);
  return new Snapper(g, buildSheetIndex(g as Linework));
};
const best = (s: Snapper, x: number, y: number, r = 1) => s.query(x, y, r)[0];

describe('snapping', () => {
  it('finds ends, middles, crossings, centres and places along a line', () => {
    const s = snapper({ segments: [0, 0, 10, 0, 5, -5, 5, 8], circles: [30, 30, 4], arcs: [60, 60, 5, 0, Math.PI / 2] });
    expect(best(s, 0.3, 0.2)).toMatchObject({ kind: 'end', x: 0, y: 0 });
    expect(best(s, 5.2, 0.1)).toMatchObject({ kind: 'crossing', x: 5, y: 0 });
    expect(best(s, 5.3, 1.6)).toMatchObject({ kind: 'middle', x: 5, y: 1.5 });
    expect(best(s, 8, 0.4)).toMatchObject({ kind: 'along', x: 8, y: 0 });
    expect(best(s, 30.2, 30.1)).toMatchObject({ kind: 'centre', x: 30, y: 30 });
    expect(best(s, 65.2, 60.2)).toMatchObject({ kind: 'end', x: 65, y: 60 });
    expect(best(s, 34.3, 30)).toMatchObject({ kind: 'along', y: 30 });
    expect(s.query(20, 20, 1)).toEqual([]);
  });
  it('prefers a corner to the lone end of a hatch a hair nearer', () => {
    const s = snapper({ segments: [0, 0, 10, 0, 0, 0, 0, 10, 0.05, 0.1, 3, 4] });
    expect(best(s, 0.06, 0.08)).toMatchObject({ kind: 'end', x: 0, y: 0 });
  });
  it('stays the same while the cursor rests between two candidates', () => {
    const s = snapper({ segments: [0, 0, 10, 0, 0, 1, 10, 1] });
    const first = best(s, 10, 0.499);
    for (let i = 0; i < 10; i++) expect(best(s, 10, 0.499)).toEqual(first);
  });
  it('finds nothing outside the crop', () => {
    const s = snapper({ segments: [0, 0, 10, 0] });
    expect(s.query(0, 0.2, 1, { crop: [2, -1, 20, 5] }).every((c) => c.x >= 2)).toBe(true);
    expect(s.query(0, 0.2, 1, { crop: [2, -1, 20, 5] })).toEqual([]);
  });
  it('an arc is met only within its sweep', () => {
    const s = snapper({ arcs: [0, 0, 5, 0, Math.PI / 2] });
    expect(s.query(-5, 0, 0.5)).toEqual([]);
    expect(best(s, 3.6, 3.5)).toMatchObject({ kind: 'middle' });
  });
  it('agrees with going through every segment, also with ten thousand of them', () => {
    const coordinate = fc.integer({ min: 0, max: 40000 }).map((n) => n / 40);
    fc.assert(fc.property(fc.array(fc.tuple(coordinate, coordinate, coordinate, coordinate), { minLength: 1, maxLength: 400 }), coordinate, coordinate, (lines, x, y) => {
      const g = geometry({ segments: lines.flat() });
      const found = new Snapper(g, buildSheetIndex(g as Linework)).query(x, y, 15);
      const nearest = nearestSegmentDistance(g, x, y);
      const nearestFound = Math.min(...found.map((c) => c.distance));
      if (nearest > 15) expect(found).toEqual([]);
      // Places nearer to one another than a five-hundredth of the radius are one place, by its better name.
      else expect(nearestFound).toBeLessThanOrEqual(nearest + 15 * 2e-3 * Math.SQRT2 + 1e-6);
    }));
  });
  it('offers what has been traced', () => {
    const s = traceSnapper([[0, 0, 100, 0], [0, 5, 100, 5], [100, -5, 100, 5]]);
    expect(best(s, 100.3, 5.2)).toMatchObject({ kind: 'end', x: 100, y: 5 });
    expect(best(s, 0.2, 0.1)).toMatchObject({ x: 0, y: 0 });
  });
  it('a page with nothing finds nothing', () => expect(snapper({}).query(0, 0, 10)).toEqual([]));
});
