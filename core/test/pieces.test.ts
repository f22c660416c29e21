import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bulgePiece,
  flattenPiece,
  hatchLines,
  lengthOfPieces,
  pieceAt,
  pieceLength,
  piecePart,
  type Point,
} from '@calque/core/geometry';
import { piecesOf } from '@calque/core/model';
import { places, element, near } from './given-elements.ts';

describe('pieces', () => {
  it('a bend too flat to be told from its chord is straight, whatever its size', () => {
    for (const bulge of [5e-324, -1e-200, 1e-15])
      for (const size of [5e-324, 1e-8, 1, 1e9]) {
        const piece = bulgePiece([0, 0], [3 * size, 0], bulge);
        expect([piece.kind, pieceLength(piece)]).toEqual(['segment', 3 * size]);
      }
  });
  it('a bulge is the tangent of a quarter of the sweep, its arc ends where it should', () => {
    fc.assert(
      fc.property(
        places(2),
        fc.double({ min: -3, max: 3, noNaN: true }).filter((b) => Math.abs(b) > 1e-3),
        ([from, to], b) => {
          const piece = bulgePiece(from, to, b);
          expect(near(pieceAt(piece, 0), from, 1e-5) && near(pieceAt(piece, 1), to, 1e-5)).toBe(true);
          if (piece.kind === 'arc')
            expect(Math.tan((piece.arc.end - piece.arc.start) / 4)).toBeCloseTo(Math.abs(b), 9);
        },
      ),
    );
  });
  it('parts make the whole, chords stay within their tolerance', () => {
    fc.assert(
      fc.property(element('e'), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (e, t) => {
        for (const piece of piecesOf(e)) {
          if (pieceLength(piece) < 1) continue;
          const parts = [piecePart(piece, 0, t), piecePart(piece, t, 1)];
          expect(Math.abs(lengthOfPieces(parts) - pieceLength(piece)) / pieceLength(piece)).toBeLessThan(
            2e-2,
          );
          if (piece.kind !== 'arc') continue;
          for (const [i, p] of flattenPiece(piece, 0.5).entries()) {
            if (i === 0) continue;
            const q = flattenPiece(piece, 0.5)[i - 1],
              m: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
            expect(Math.abs(Math.hypot(m[0] - piece.arc.cx, m[1] - piece.arc.cy) - piece.arc.r)).toBeLessThan(
              0.51,
            );
          }
        }
      }),
      { numRuns: 100 },
    );
  });
  it('hatch lines lie within what they fill, at their spacing', () => {
    const lines = hatchLines(
      [
        [
          [0, 0],
          [1000, 0],
          [1000, 1000],
          [0, 1000],
        ],
        [
          [400, 400],
          [600, 400],
          [600, 600],
          [400, 600],
        ],
      ],
      0,
      100,
    );
    expect(lines).toHaveLength(9 + 1 + 1);
    expect(lines.filter(([p]) => p[1] === 500).map(([p, q]) => [p[0], q[0]])).toEqual([
      [0, 400],
      [600, 1000],
    ]);
  });
});
