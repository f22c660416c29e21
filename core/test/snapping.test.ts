import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arcPiece, segmentPiece, TAU } from '@calque/core/geometry';
import {
  buildSheetIndex,
  crossingsBetween,
  LiveItems,
  lineSnapper,
  nearestSegmentDistance,
  sheetSnapper,
  Snapper,
  type SnapGeometry,
} from '@calque/core/snapping';

const geometry = (parts: Partial<Record<keyof SnapGeometry, number[]>>): SnapGeometry => {
  const of = (k: keyof SnapGeometry) => new Float64Array(parts[k] ?? []);
  return {
    segments: of('segments'),
    fillEdges: of('fillEdges'),
    arcs: of('arcs'),
    circles: of('circles'),
    curves: of('curves'),
  };
};
const snapper = (parts: Parameters<typeof geometry>[0]) => {
  const g = geometry(parts);
  return sheetSnapper(g, buildSheetIndex(g));
};
const best = (s: Snapper, x: number, y: number, r = 1) => s.query(x, y, r)[0];

describe('snapping', () => {
  it('finds ends, middles, crossings, centres and places along a line', () => {
    const s = snapper({
      segments: [0, 0, 10, 0, 5, -5, 5, 8],
      circles: [30, 30, 4],
      arcs: [60, 60, 5, 0, Math.PI / 2],
    });
    expect(best(s, 0.3, 0.2)).toMatchObject({ kind: 'end', x: 0, y: 0 });
    expect(best(s, 5.2, 0.1)).toMatchObject({ kind: 'crossing', x: 5, y: 0 });
    expect(best(s, 5.3, 1.6)).toMatchObject({ kind: 'middle', x: 5, y: 1.5 });
    expect(best(s, 8, 0.4)).toMatchObject({ kind: 'along', x: 8, y: 0 });
    expect(best(s, 30.2, 30.1)).toMatchObject({ kind: 'centre', x: 30, y: 30 });
    expect(best(s, 65.2, 60.2)).toMatchObject({ kind: 'end', x: 65, y: 60 });
    expect(best(s, 34.3, 30)).toMatchObject({ kind: 'quarter', x: 34, y: 30 });
    expect(best(s, 32.9, 33)).toMatchObject({ kind: 'along' });
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
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate, coordinate, coordinate), { minLength: 1, maxLength: 400 }),
        coordinate,
        coordinate,
        (lines, x, y) => {
          const g = geometry({ segments: lines.flat() });
          const found = sheetSnapper(g, buildSheetIndex(g)).query(x, y, 15);
          const nearest = nearestSegmentDistance(g, x, y);
          const nearestFound = Math.min(...found.map((c) => c.distance));
          if (nearest > 15) expect(found).toEqual([]);
          // Places nearer to one another than a five-hundredth of the radius are one place, by its better name.
          else expect(nearestFound).toBeLessThanOrEqual(nearest + 15 * 2e-3 * Math.SQRT2 + 1e-6);
        },
      ),
    );
  });
  it('offers what has been traced', () => {
    const s = lineSnapper([
      [0, 0, 100, 0],
      [0, 5, 100, 5],
      [100, -5, 100, 5],
    ]);
    expect(best(s, 100.3, 5.2)).toMatchObject({ kind: 'end', x: 100, y: 5 });
    expect(best(s, 0.2, 0.1)).toMatchObject({ x: 0, y: 0 });
  });
  it('a page with nothing finds nothing', () => expect(snapper({}).query(0, 0, 10)).toEqual([]));
});

describe('what is seen from the point picked before', () => {
  const kindsAt = (s: Snapper, x: number, y: number, anchor: [number, number], r = 1) =>
    s.query(x, y, r, { anchor });
  it('is square to a line where the line goes on that far', () => {
    const s = snapper({ segments: [0, 0, 10, 2] });
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 9, noNaN: true }),
        fc.double({ min: -8, max: 8, noNaN: true }).filter((d) => Math.abs(d) > 0.5),
        (t, d) => {
          const k = Math.hypot(10, 2),
            foot: [number, number] = [t, t / 5],
            anchor: [number, number] = [foot[0] - (2 / k) * d, foot[1] + (10 / k) * d];
          const found = kindsAt(s, foot[0] + 0.1, foot[1] + 0.1, anchor).find((c) => c.kind === 'square');
          expect(found).toBeDefined();
          expect(Math.hypot(found!.x - foot[0], found!.y - foot[1])).toBeLessThan(1e-9);
        },
      ),
    );
    expect(kindsAt(s, 0, 0, [-5, -4]).some((c) => c.kind === 'square')).toBe(false);
  });
  it('is tangent and square to circles and arcs', () => {
    const circle = snapper({ circles: [0, 0, 3] });
    fc.assert(
      fc.property(
        fc.double({ min: 3.2, max: 40, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        (away, turn) => {
          const anchor: [number, number] = [away * Math.cos(turn), away * Math.sin(turn)];
          for (const side of [1, -1]) {
            const angle = turn + side * Math.acos(3 / away);
            const t = kindsAt(circle, 3 * Math.cos(angle), 3 * Math.sin(angle), anchor, 0.05).find(
              (c) => c.kind === 'tangent',
            )!;
            // The radius stands square on a tangent.
            expect(Math.abs(t.x * (t.x - anchor[0]) + t.y * (t.y - anchor[1]))).toBeLessThan(
              1e-9 * away * away,
            );
          }
          expect(
            kindsAt(circle, 3 * Math.cos(turn), 3 * Math.sin(turn), anchor, 0.05).some(
              (c) => c.kind === 'square',
            ),
          ).toBe(true);
        },
      ),
    );
    const arc = snapper({ arcs: [0, 0, 3, 0, Math.PI / 2] });
    expect(kindsAt(arc, -3, 0, [-9, 0]).filter((c) => c.kind === 'square' || c.kind === 'tangent')).toEqual(
      [],
    );
    expect(kindsAt(circle, 3, 0, [1, 0]).some((c) => c.kind === 'tangent')).toBe(false);
  });
  it('without such a point nothing is', () => {
    expect(
      snapper({ segments: [0, 0, 10, 0], circles: [5, 4, 4] })
        .query(5, 0.1, 2)
        .some((c) => c.kind === 'square' || c.kind === 'tangent'),
    ).toBe(false);
  });
});

describe('kinds', () => {
  it('lines that stop short of one another meet where they would cross', () => {
    const s = snapper({ segments: [0, 0, 9.6, 0, 10, 0.5, 10, 8] });
    expect(best(s, 10.05, -0.02)).toMatchObject({ kind: 'meeting', x: 10, y: 0 });
    expect(best(snapper({ segments: [0, 0, 9, 0, 0, 0.3, 9, 0.31] }), 9, 0.15).kind).not.toBe('meeting');
  });
  it('a pick limited to some finds nothing else', () => {
    const s = snapper({ segments: [0, 0, 10, 0, 5, -5, 5, 5] });
    expect(s.query(5.1, 0.1, 6, { kinds: new Set(['middle']) }).map((c) => [c.kind, c.x, c.y])).toEqual([
      ['middle', 5, 0],
    ]);
    expect(s.query(5.1, 0.1, 6, { kinds: new Set() })).toEqual([]);
  });
  it('finds where a line of a sheet and a traced one cross, and nothing that is too far', () => {
    const sheet = snapper({ segments: [0, 0, 10, 0] }),
      items = new LiveItems();
    items.fill([
      ['a', { pieces: [segmentPiece([4, -5], [4, 5])] }],
      ['c', { pieces: [arcPiece({ cx: 8, cy: 0, r: 2, start: 0, end: TAU })], bases: [[7, 7]] }],
    ]);
    const trace = new Snapper(items);
    const near = (s: Snapper, x: number, y: number) =>
      s
        .query(x, y, 1)
        .filter((c) => c.kind === 'along')
        .map((c) => ({ piece: s.piece(c.item)!, lit: c.lit[0] }));
    expect(crossingsBetween([near(sheet, 4.3, 0.2), near(trace, 4.3, 0.2)], [4.3, 0.2], 1)).toMatchObject([
      { x: 4, y: 0 },
    ]);
    expect(crossingsBetween([near(sheet, 9.8, 0.1), near(trace, 9.8, 0.1)], [9.8, 0.1], 1)).toMatchObject([
      { x: 10, y: 0 },
    ]);
    expect(crossingsBetween([near(sheet, 2, 0.2), near(trace, 2, 0.2)], [2, 0.2], 1)).toEqual([]);
    expect(trace.query(7.1, 7, 1)[0]).toMatchObject({ kind: 'base', x: 7, y: 7 });
  });
  it('follows elements that come, change and go, as an index made anew would', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(9), fc.nat(100), fc.nat(100), fc.boolean()), {
          minLength: 1,
          maxLength: 40,
        }),
        fc.nat(100),
        fc.nat(100),
        (steps, x, y) => {
          const live = new LiveItems(),
            now = new Map<string, ReturnType<typeof segmentPiece>>();
          for (const [n, px, py, gone] of steps) {
            const id = `e${n}`,
              piece = segmentPiece([px, py], [px + 9, py + n]);
            if (gone) {
              live.remove(id);
              now.delete(id);
            } else {
              live.set(id, { pieces: [piece] });
              now.set(id, piece);
            }
          }
          const fresh = new LiveItems();
          fresh.fill([...now].map(([id, piece]) => [id, { pieces: [piece] }] as const));
          const places = (items: LiveItems) =>
            new Snapper(items)
              .query(x, y, 12)
              .map((c) => [c.kind, c.x, c.y].join())
              .sort();
          expect(places(live)).toEqual(places(fresh));
          expect(live.owners).toBe(now.size);
        },
      ),
    );
  });
});
