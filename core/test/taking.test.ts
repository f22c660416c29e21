import Flatbush from 'flatbush';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { facePairs, outlineAround } from '@calque/core/conversion';
import { arcPiece, areaOfPieces, pieceBox, pieceEnd, pieceStart, segmentPiece, type Piece, type Point } from '@calque/core/geometry';

const s = (x0: number, y0: number, x1: number, y1: number) => segmentPiece([x0, y0], [x1, y1]) as Extract<Piece, { kind: 'segment' }>;

/** Looks for an outline among pieces, with an index as the surface has one. */
function around(pieces: readonly Piece[], at: Point) {
  const index = new Flatbush(pieces.length);
  for (const p of pieces) index.add(...(pieceBox(p) as [number, number, number, number]));
  index.finish();
  return outlineAround(pieces, (box) => index.search(...(box as [number, number, number, number])), at, 0.1);
}
const area = (pieces: readonly Piece[], at: Point) => {
  const found = around(pieces, at);
  return found.ok ? areaOfPieces(found.pieces) : null;
};

describe('the outline around a point', () => {
  const room = [s(0, 0, 4000, 0), s(4000, 0, 4000, 3000), s(4000, 3000, 0, 3000), s(0, 3000, 0, 0)];
  it('is the room, however its lines were drawn and wherever in it the point lies', () => {
    expect(area(room, [2000, 1500])).toBeCloseTo(12e6, 3);
    expect(area([...room.slice(1), s(4000, 0, 0, 0)].reverse(), [10, 2990])).toBeCloseTo(12e6, 3);
  });
  it('turns where lines cross and go on beyond, and goes round what stands within', () => {
    const crossing = [s(-500, 0, 4500, 0), s(4000, -500, 4000, 3500), s(4500, 3000, -500, 3000), s(0, 3500, 0, -500)];
    expect(area(crossing, [2000, 1500])).toBeCloseTo(12e6, 3);
    const table = [s(1800, 1400, 2600, 1400), s(2600, 1400, 2600, 1800), s(2600, 1800, 1800, 1800), s(1800, 1800, 1800, 1400)];
    expect(area([...room, ...table], [1000, 1500])).toBeCloseTo(12e6, 3);
    expect(area([...room, ...table], [2000, 1500])).toBeCloseTo(800 * 400, 3);
  });
  it('is parted by a line across, not by a loose one', () => {
    expect(area([...room, s(1000, 0, 1000, 3000)], [500, 500])).toBeCloseTo(3e6, 3);
    expect(area([...room, s(1000, 0, 1000, 2000)], [500, 500])).toBeCloseTo(12e6, 3);
  });
  it('follows arcs', () => {
    const half = [s(0, 0, 1000, 0), arcPiece({ cx: 500, cy: 0, r: 500, start: 0, end: Math.PI })];
    expect(area(half, [500, 100])).toBeCloseTo((Math.PI * 500 * 500) / 2, 2);
  });
  it('is refused where it is open, with the place of the gap, and where nothing is around', () => {
    const open = around([s(0, 0, 1800, 0), s(2600, 0, 4000, 0), ...room.slice(1)], [2000, 1500]);
    expect(open.ok).toBe(false);
    expect(around(room, [9000, 1500])).toEqual({ ok: false, gap: null });
  });
  it('closes: each piece begins where the one before ends', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.nat(8), fc.nat(8), fc.boolean()), { minLength: 4, maxLength: 30 }), fc.tuple(fc.nat(79), fc.nat(79)), (lines, [px, py]) => {
      const grid = lines.map(([x, y, level]) => (level ? s(x * 100, y * 100, x * 100 + 300, y * 100) : s(x * 100, y * 100, x * 100, y * 100 + 300)));
      const found = around(grid, [px * 10 + 5.3, py * 10 + 4.7]);
      if (!found.ok) return;
      found.pieces.forEach((p, i) => {
        const [q, r] = [pieceEnd(p), pieceStart(found.pieces[(i + 1) % found.pieces.length])];
        expect(Math.hypot(q[0] - r[0], q[1] - r[1])).toBeLessThan(0.3);
      });
      expect(areaOfPieces(found.pieces)).toBeGreaterThan(0);
    }));
  });
});

describe('a wall from its faces', () => {
  it('lies midway, as thick as they are apart, and ends midway at a corner', () => {
    expect(facePairs(s(0, 0, 4000, 0), [s(-240, -240, 4240, -240), s(0, 1500, 4000, 1500)], [2000, -10])).toEqual([{ from: [-120, -120], to: [4120, -120], thickness: 240 }]);
  });
  it('is offered to the side of the pointer first, then by thickness', () => {
    const found = facePairs(s(0, 0, 4000, 0), [s(0, -240, 4000, -240), s(0, 120, 4000, 120), s(0, 300, 4000, 300)], [2000, 5]);
    expect(found.map((f) => f.thickness)).toEqual([120, 300, 240]);
  });
  it('is none of lines that are slanted, apart along their run, or too near', () => {
    expect(facePairs(s(0, 0, 4000, 0), [s(0, 100, 4000, 160), s(3900, 200, 9000, 200), s(0, 10, 4000, 10)], [2000, 5])).toEqual([]);
  });
});
