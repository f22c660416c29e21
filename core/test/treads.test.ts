import { describe, expect, it } from 'vitest';
import { treadsAlong } from '@calque/core/building';
import { applyTransform, rotationAbout, segmentPiece, type Piece, type Point } from '@calque/core/geometry';

const GOING = 280;
/** Risers of a flight that goes to the right from (0, 0), a metre wide about y = 200, at any turn. */
const flight = (many: number, turn = 0, more: readonly (readonly [Point, Point])[] = []): Piece[] => {
  const map = rotationAbout(turn, [0, 0]);
  return [
    ...Array.from({ length: many }, (_, i): [Point, Point] => [
      [i * GOING, -300],
      [i * GOING, 700],
    ]),
    ...more,
  ].map(([p, q]) => segmentPiece(applyTransform(map, p), applyTransform(map, q)));
};
const at = (x: number, y: number, turn = 0): Point => applyTransform(rotationAbout(turn, [0, 0]), [x, y]);

describe('a flight that a plan draws', () => {
  it.each([0, 0.7, -2.4])('has its risers counted, its middle and its width, at a turn of %f', (turn) => {
    const found = treadsAlong(at(10, 150, turn), at(9 * GOING - 20, 160, turn), flight(10, turn))!;
    expect(found.risers).toBe(10);
    expect(found.width).toBeCloseTo(1000, 0);
    for (const [p, q] of [
      [found.from, at(0, 200, turn)],
      [found.to, at(9 * GOING, 200, turn)],
    ])
      // The way that was picked runs a little askew.
      expect(Math.hypot(p[0] - q[0], p[1] - q[1])).toBeLessThan(15);
  });
  it('is counted although nosings are drawn double, a riser is hidden, and other lines cross it', () => {
    const nosings = Array.from({ length: 10 }, (_, i): [Point, Point] => [
      [i * GOING - 25, -300],
      [i * GOING - 25, 700],
    ]);
    const drawn = flight(10, 0, [
      ...nosings,
      // A break line, the strings, the way up.
      [
        [1000, -400],
        [1400, 800],
      ],
      [
        [0, -300],
        [9 * GOING, -300],
      ],
      [
        [0, 200],
        [9 * GOING, 200],
      ],
    ]).filter((_, i) => i !== 4 && i !== 14);
    expect(treadsAlong([0, 200], [9 * GOING, 200], drawn)?.risers).toBe(10);
  });
  it('is none where lines are uneven, too few, too far apart, or along the way', () => {
    const uneven = [0, 280, 700, 800, 1500].map((x) => segmentPiece([x, -300], [x, 700]));
    expect(treadsAlong([0, 0], [1500, 0], uneven)).toBeNull();
    expect(treadsAlong([0, 0], [GOING, 0], flight(2))).toBeNull();
    expect(
      treadsAlong(
        [0, 0],
        [4000, 0],
        [0, 1000, 2000, 3000].map((x) => segmentPiece([x, -300], [x, 700])),
      ),
    ).toBeNull();
    expect(treadsAlong([0, 0], [0, 900], flight(10))).toBeNull();
    expect(treadsAlong([0, 0], [0, 0], flight(10))).toBeNull();
  });
});
