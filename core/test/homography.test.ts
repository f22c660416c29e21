import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cornersCross, straighten } from '@calque/core/calibration';
import {
  applyHomography,
  depthAt,
  fitHomography,
  invertHomography,
  type Homography,
  type Point,
} from '@calque/core/geometry';
import { chanceFrom } from './given-plan.ts';

const SQUARE: Point[] = [
  [0, 0],
  [1000, 0],
  [1000, 800],
  [0, 800],
];
const small = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
/** Photos at a slant: the horizon stays outside of the square. */
const slanted = fc
  .tuple(small(2e-4), small(2e-4), small(0.4), small(0.4), small(300), small(300))
  .map(([g, h, b, d, c, f]): Homography => [1, b, c, d, 1, f, g, h, 1]);
/** Repeatable chance with a normal distribution (Box and Muller 1958). */
function normalFrom(seed: number): () => number {
  const chance = chanceFrom(seed);
  return () => Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(2 * Math.PI * chance());
}
const near = (a: readonly number[], b: readonly number[], within: number) =>
  expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(within);

describe('perspective', () => {
  it('is found exactly from four corners, and by least squares from more', () => {
    fc.assert(
      fc.property(slanted, (truth) => {
        for (const points of [SQUARE, [...SQUARE, [500, 400], [120, 700], [900, 60]] as Point[]]) {
          const outcome = fitHomography(points.map((from) => ({ from, to: applyHomography(truth, from) })));
          if (!outcome.ok) throw new Error(outcome.reason);
          for (const p of [
            [333, 222],
            [10, 790],
          ] as Point[])
            near(applyHomography(outcome.map, p), applyHomography(truth, p), 1e-4);
          expect(Math.max(...outcome.residuals)).toBeLessThan(1e-4);
          expect(depthAt(outcome.map, [500, 400])).toBeGreaterThan(0);
        }
      }),
    );
  });

  it('an inverse undoes it', () => {
    fc.assert(
      fc.property(slanted, (map) => {
        near(applyHomography(invertHomography(map), applyHomography(map, [640, 320])), [640, 320], 1e-6);
      }),
    );
  });

  it('refuses too few points, and points in line', () => {
    expect(fitHomography(SQUARE.slice(0, 3).map((p) => ({ from: p, to: p })))).toEqual({
      ok: false,
      reason: 'too-few',
    });
    expect(
      fitHomography(
        (
          [
            [0, 0],
            [500, 1],
            [1000, 0],
            [400, 800],
          ] as Point[]
        ).map((p, i) => ({ from: p, to: SQUARE[i] })),
      ),
    ).toEqual({ ok: false, reason: 'in-line' });
  });

  it('tells corners that cross', () => {
    expect(cornersCross(SQUARE)).toBe(false);
    expect(cornersCross([...SQUARE].reverse())).toBe(false);
    expect(cornersCross([SQUARE[0], SQUARE[2], SQUARE[1], SQUARE[3]])).toBe(true);
    expect(
      cornersCross([
        [0, 0],
        [1000, 0],
        [100, 100],
        [0, 800],
      ]),
    ).toBe(true);
  });
});

describe('straightening a photo', () => {
  const photo = { width: 1600, height: 1200 };
  /** A board of 2,400 by 1,800 mm seen at a slant: pixels of the photo from millimetres of the board, y down. */
  const seen: Homography = [0.42, 0.03, 180, -0.02, 0.38, 160, 4e-5, 6e-5, 1];
  const board: Point[] = [
    [0, 0],
    [2400, 0],
    [2400, 1800],
    [0, 1800],
  ];
  const corners = board.map((p) => applyHomography(seen, p));

  it('lays every point of the board at its true place', () => {
    const result = straighten(corners, 2400, 1800, photo);
    if ('reason' in result) throw new Error(result.reason);
    const k = result.millimetresPerPixel;
    near(result.corners[1], [result.corners[0][0] + 2400 / k, result.corners[0][1]], 1e-6);
    near(result.corners[2], [result.corners[1][0], result.corners[1][1] + 1800 / k], 1e-6);
    for (const p of [
      [600, 300],
      [2300, 1700],
      [1200, 900],
    ] as Point[]) {
      const pixel: Point = [result.corners[0][0] + p[0] / k, result.corners[0][1] + p[1] / k];
      near(applyHomography(result.photoFromPicture, pixel), applyHomography(seen, p), 1e-6);
    }
  });

  it('is as fine as the photo, reaches what it shows, and stays within bounds', () => {
    const result = straighten(corners, 2400, 1800, photo);
    if ('reason' in result) throw new Error(result.reason);
    const longest = Math.hypot(corners[1][0] - corners[0][0], corners[1][1] - corners[0][1]);
    expect(2400 / result.millimetresPerPixel).toBeGreaterThanOrEqual(longest * 0.99);
    expect(result.width * result.height).toBeLessThanOrEqual(12.1e6);
    expect(result.width * result.millimetresPerPixel).toBeGreaterThan(2400);
    expect(result.width * result.millimetresPerPixel).toBeLessThanOrEqual(3 * 2400 + 10);
  });

  it('keeps the sense in which the corners were picked: nothing is mirrored', () => {
    const back = straighten([corners[0], corners[3], corners[2], corners[1]], 1800, 2400, photo);
    if ('reason' in back) throw new Error(back.reason);
    const area = back.corners.reduce((s, [x, y], i) => {
      const [u, v] = back.corners[(i + 1) % 4];
      return s + x * v - u * y;
    }, 0);
    expect(area).toBeLessThan(0);
  });

  it('refuses corners that cross or lie in line', () => {
    expect(straighten([corners[0], corners[2], corners[1], corners[3]], 2400, 1800, photo)).toEqual({
      reason: 'cross',
    });
    expect(
      straighten(
        [
          [0, 0],
          [500, 1],
          [1000, 0.5],
          [400, 800],
        ],
        2400,
        1800,
        photo,
      ),
    ).toMatchObject({ reason: expect.any(String) });
  });
});

describe('the stated error of a straightened photo', () => {
  const photo = { width: 1600, height: 1200 };
  const seen: Homography = [0.42, 0.03, 180, -0.02, 0.38, 160, 4e-5, 6e-5, 1];
  const board: Point[] = [
    [0, 0],
    [2400, 0],
    [2400, 1800],
    [0, 1800],
  ];

  it('holds in 95 of 100 cases where it is largest, by corners alone and with further points', () => {
    for (const further of [
      [],
      [
        [1200, 900],
        [300, 1500],
        [2100, 250],
        [1200, 60],
      ],
    ] as Point[][]) {
      const chance = normalFrom(7 + further.length);
      let held = 0;
      const trials = 1500;
      for (let i = 0; i < trials; i++) {
        const pick = (p: Point): Point => {
          const [x, y] = applyHomography(seen, p);
          return [x + 1.2 * chance(), y + 1.2 * chance()];
        };
        const result = straighten(
          board.map(pick),
          2400,
          1800,
          photo,
          further.map((p) => ({ at: pick(p), along: p[0], away: p[1] })),
          Array<number>(4 + further.length).fill(1.2),
        );
        if ('reason' in result) throw new Error(result.reason);
        // The corner of the picture that is known worst: where it truly lies, against where the picture puts it.
        const worst = Math.max(
          ...(
            [
              [0, 0],
              [result.width, 0],
              [result.width, result.height],
              [0, result.height],
            ] as Point[]
          ).map((p) => {
            const true_ = applyHomography(
              invertHomography(seen),
              applyHomography(result.photoFromPicture, p),
            );
            const put = [
              (p[0] - result.corners[0][0]) * result.millimetresPerPixel,
              (p[1] - result.corners[0][1]) * result.millimetresPerPixel,
            ];
            return Math.hypot(true_[0] - put[0], true_[1] - put[1]);
          }),
        );
        if (worst <= result.across) held++;
      }
      // The statement is of each corner; that the worst of four lies within it is a little rarer.
      expect(held / trials).toBeGreaterThan(0.89);
      expect(held / trials).toBeLessThan(0.975);
    }
  });
  it('shrinks with further points, and grows where they contradict', () => {
    const at = (p: Point): Point => applyHomography(seen, p);
    const by = (more: Point[], shift = 0) => {
      const result = straighten(
        board.map(at),
        2400,
        1800,
        photo,
        more.map((p) => ({ at: at([p[0] + shift, p[1]]), along: p[0], away: p[1] })),
        Array<number>(4 + more.length).fill(1),
      );
      return 'reason' in result ? NaN : result.across;
    };
    const more: Point[] = [
      [1200, 900],
      [100, 1700],
      [2300, 100],
      [1200, 30],
      [1200, 1770],
    ];
    expect(by(more)).toBeLessThan(by([]));
    expect(by(more, 40)).toBeGreaterThan(2 * by(more));
  });
});
