import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areaOfPieces, pieceAt, ringArea, splineThrough } from '@calque/core/geometry';
import {
  areaFigures,
  dimensionWords,
  figurePlace,
  piecesOf,
  type Area,
  type Pair,
  type Traced,
} from '@calque/core/model';
import { base, places } from './given-elements.ts';

describe('figures', () => {
  it('of areas are exact, holes and bends included', () => {
    const square = {
      points: [
        [0, 0],
        [4000, 0],
        [4000, 3000],
        [0, 3000],
      ] as Pair[],
      bulges: [0, 0, 0, 0],
    };
    expect(
      areaFigures({
        rings: [
          square,
          {
            points: [
              [1000, 1000],
              [2000, 1000],
              [2000, 2000],
              [1000, 2000],
            ],
            bulges: [0, 0, 0, 0],
          },
        ],
      }),
    ).toEqual({ area: 11e6, perimeter: 18000 });
    const round: Pick<Area, 'rings'> = {
      rings: [
        {
          points: [
            [-500, 0],
            [500, 0],
          ],
          bulges: [1, 1],
        },
      ],
    };
    expect(areaFigures(round).area).toBeCloseTo(Math.PI * 250000, 4);
    expect(areaFigures(round).perimeter).toBeCloseTo(Math.PI * 1000, 6);
  });
  it('of a closed curve agree with a fine polygon', () => {
    fc.assert(
      fc.property(places(3, 7), (points) => {
        const e: Traced = { type: 'spline', ...base('s'), controls: splineThrough(points, {}, true) },
          pieces = piecesOf(e);
        const ring = pieces.flatMap((p) => Array.from({ length: 400 }, (_, i) => pieceAt(p, i / 400)));
        expect(Math.abs(areaOfPieces(pieces) - ringArea(ring))).toBeLessThan(1e-4 * 5000 * 5000);
      }),
      { numRuns: 50 },
    );
  });
  it('are written readably: upright ones from the right, never on their head', () => {
    fc.assert(
      fc.property(
        places(3),
        fc.constantFrom('aligned', 'horizontal', 'vertical', 'radius'),
        ([p, q, at], measures) => {
          const { angle } = figurePlace({ measures: measures as 'aligned', points: [p, q], at, height: 100 });
          expect(angle).toBeGreaterThan(-Math.PI / 2 - 1e-6);
          expect(angle).toBeLessThan(Math.PI / 2 + 1e-6);
        },
      ),
    );
    expect(
      dimensionWords(
        {
          measures: 'radius',
          points: [
            [0, 0],
            [250, 0],
          ],
          at: [9, 9],
          height: 1,
        },
        { units: 'mm', precision: 0 },
      ),
    ).toBe('R 250');
    expect(
      dimensionWords(
        {
          measures: 'angle',
          points: [
            [0, 0],
            [250, 0],
            [0, 9],
          ],
          at: [9, 9],
          height: 1,
        },
        { units: 'mm', precision: 0 },
      ),
    ).toBe('90.0°');
  });
});
