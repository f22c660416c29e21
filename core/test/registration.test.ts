import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyTransform,
  compose,
  rotationAbout,
  scalingAbout,
  translation,
  type Transform,
  fitSimilarity,
} from '@calque/core/geometry';
import {
  compareLines,
  groupDifferences,
  leansOnGone,
  placementOfNew,
  register,
  type Lines,
} from '@calque/core/registration';

/** A fixed sequence: the same plan in every run. */
function chances(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** A plan of rooms of uneven size, walls as double lines, with some slanting ones and a hatch. */
function plan(seed = 5, rooms = 40): number[][] {
  const chance = chances(seed);
  const lines: number[][] = [];
  for (let i = 0; i < rooms; i++) {
    const x = 60 + chance() * 700,
      y = 60 + chance() * 420,
      w = 40 + chance() * 90,
      h = 30 + chance() * 80;
    for (const inset of [0, 5.67]) {
      const [x0, y0, x1, y1] = [x + inset, y + inset, x + w - inset, y + h - inset];
      lines.push([x0, y0, x1, y0], [x1, y0, x1, y1], [x1, y1, x0, y1], [x0, y1, x0, y0]);
    }
    lines.push([x, y, x + 20 * chance(), y + 20]);
  }
  for (let k = 0; k < 60; k++) lines.push([100 + 4 * k, 500, 108 + 4 * k, 508]);
  return lines;
}
const flat = (lines: readonly number[][]): Lines => Float64Array.from(lines.flat());
const moved = (lines: readonly number[][], t: Transform) =>
  lines.map(([a, b, c, d]) => [...applyTransform(t, [a, b]), ...applyTransform(t, [c, d])]);
/** Largest distance by which two maps differ over the page. */
const apart = (a: Transform, b: Transform) =>
  Math.max(
    ...[
      [0, 0],
      [842, 0],
      [842, 595],
      [0, 595],
    ].map((p) => {
      const [x, y] = applyTransform(a, p as [number, number]),
        [u, v] = applyTransform(b, p as [number, number]);
      return Math.hypot(x - u, y - v);
    }),
  );

const CASES: [string, Transform][] = [
  ['as it was', [1, 0, 0, 1, 0, 0]],
  ['shifted by other margins', translation(31.4, -18.2)],
  ['shifted by less than a line', translation(0.35, 0.2)],
  ['turned by a quarter', compose(translation(595, 0), rotationAbout(Math.PI / 2, [0, 0]))],
  ['upside down', rotationAbout(Math.PI, [421, 297])],
  ['on other paper', compose(translation(12, 40), scalingAbout(Math.SQRT1_2, [0, 0]))],
  [
    'on larger paper, turned back',
    compose(
      translation(0, 1190),
      compose(rotationAbout(-Math.PI / 2, [0, 0]), scalingAbout(Math.SQRT2, [0, 0])),
    ),
  ],
  [
    'a print at 97.3 %, slightly askew',
    compose(translation(-9, 14), compose(rotationAbout(0.021, [300, 300]), scalingAbout(0.973, [0, 0]))),
  ],
];

describe('laying a new issue of a page on the old one', () => {
  it.each(CASES)('%s', (_, truth) => {
    const fit = register(flat(plan()), flat(moved(plan(), truth)))!;
    expect(apart(fit.transform, truth)).toBeLessThan(0.01);
    expect(fit.residual).toBeLessThan(0.01);
    expect(fit.scale).toBeCloseTo(Math.hypot(truth[0], truth[1]), 6);
    expect(Math.cos(fit.radians - Math.atan2(truth[1], truth[0]))).toBeCloseTo(1, 8);
    expect(fit.found).toBeGreaterThan(0.99);
  });

  it.each(CASES)('%s, with one line in twenty changed and the title block elsewhere', (_, truth) => {
    const older = plan();
    const title = (x: number) => [
      [x, 20, x + 200, 20],
      [x, 20, x, 70],
      [x, 45, x + 200, 45],
      [x + 90, 20, x + 90, 70],
      [x, 70, x + 200, 70],
    ];
    const chance = chances(9);
    const kept = older.filter((_, i) => i % 20 !== 7),
      gone = older.filter((_, i) => i % 20 === 7);
    const added = gone.map(() => {
      const x = 80 + 600 * chance(),
        y = 520 + 50 * chance();
      return [x, y, x + 17, y + 23];
    });
    const fit = register(
      flat([...older, ...title(20)]),
      flat([...moved([...kept, ...added], truth), ...moved(title(600), truth)]),
    )!;
    expect(apart(fit.transform, truth)).toBeLessThan(0.05);
    const differences = compareLines(flat(older), flat(moved([...kept, ...added], truth)), fit.transform);
    expect(differences.added.length).toBe(added.length);
    const there = new Set(differences.gone.map((line) => line.map((v) => v.toFixed(0)).join()));
    // What other lines happen to cover is no difference for the eye.
    const seen = moved(gone, truth).filter((line) => there.has(line.map((v) => v.toFixed(0)).join())).length;
    expect(seen).toBeGreaterThan(0.85 * gone.length);
    expect(differences.gone.length).toBeLessThanOrEqual(gone.length + 1);
  });

  it('coordinates that another program rounded are matched all the same', () => {
    const chance = chances(3);
    const rough = moved(plan(), translation(20, 10)).map((line) =>
      line.map((v) => Math.round((v + 0.04 * (chance() - 0.5)) * 20) / 20),
    );
    const fit = register(flat(plan()), flat(rough))!;
    expect(apart(fit.transform, translation(20, 10))).toBeLessThan(0.05);
    expect(compareLines(flat(plan()), flat(rough), fit.transform)).toEqual({ added: [], gone: [] });
  });

  it('two different drawings, or an empty one, are not laid on one another', () => {
    expect(register(flat(plan(5)), flat(plan(77)))).toBeNull();
    expect(register(flat([]), flat(plan()))).toBeNull();
    expect(register(flat(plan()), flat([]))).toBeNull();
  });

  it('can be stopped', () => {
    expect(() =>
      register(flat(plan()), flat(moved(plan(), translation(50, 60))), () => {
        throw new Error('stopped');
      }),
    ).toThrow('stopped');
  });

  it('what was traced stays under the same lines of the new page', () => {
    const plane: Transform = [35, 0, 0, 35, 100, -50],
      newFromOld = CASES[6][1];
    const old: [number, number] = [123, 45];
    const before = applyTransform(plane, old),
      after = applyTransform(placementOfNew(plane, newFromOld), applyTransform(newFromOld, old));
    expect(after[0]).toBeCloseTo(before[0], 6);
    expect(after[1]).toBeCloseTo(before[1], 6);
  });
});

describe('what differs', () => {
  it('a line drawn in other pieces, or longer than it was, differs only where it does', () => {
    const older = flat([
      [0, 0, 100, 0],
      [0, 50, 100, 50],
    ]);
    const newer = flat([
      [0, 0, 40, 0],
      [40, 0, 100, 0],
      [0, 50, 130, 50],
    ]);
    const { added, gone } = compareLines(older, newer, [1, 0, 0, 1, 0, 0]);
    expect(gone).toEqual([]);
    expect(added).toHaveLength(1);
    expect(added[0][0]).toBeCloseTo(100, 0);
    expect(added[0].slice(1)).toEqual([50, 130, 50]);
  });
  it('a wall moved by more than a pen is gone here and added there', () => {
    const { added, gone } = compareLines(
      flat([[0, 0, 100, 0]]),
      flat([[0, 1.4, 100, 1.4]]),
      [1, 0, 0, 1, 0, 0],
    );
    expect([added, gone]).toEqual([[[0, 1.4, 100, 1.4]], [[0, 0, 100, 0]]]);
  });
  it('differences that lie together are one place to look at', () => {
    const places = groupDifferences(
      [
        [0, 0, 10, 0],
        [10, 0, 10, 10],
        [300, 300, 310, 300],
        [12, 9, 20, 9],
      ],
      5,
    );
    expect(places.map((p) => [p.box, p.lines])).toEqual([
      [
        [0, 0, 20, 10],
        [0, 1, 3],
      ],
      [[300, 300, 310, 300], [2]],
    ]);
    expect(groupDifferences([], 5)).toEqual([]);
  });
  it('tells which traced lines leant on what is gone', () => {
    expect(leansOnGone([], [[0, 0, 100, 0]], 0.5)).toEqual([false]);
    expect(compareLines(flat([]), flat([[0, 0, 5, 5]]), [1, 0, 0, 1, 0, 0])).toEqual({
      added: [[0, 0, 5, 5]],
      gone: [],
    });
    expect(
      leansOnGone(
        [[0, 0, 100, 0]],
        [
          [10, 0.1, 90, 0.1],
          [0, 5, 100, 5],
          [90, 0, 190, 0],
        ],
        0.5,
      ),
    ).toEqual([true, false, false]);
  });
});

describe('fitting points', () => {
  const coordinate = fc.double({ min: -1000, max: 1000, noNaN: true });
  it('finds any similarity again', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate), { minLength: 2, maxLength: 20 }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        coordinate,
        (points, turn, scale, shift) => {
          fc.pre(Math.max(...points.map((p) => Math.hypot(p[0] - points[0][0], p[1] - points[0][1]))) > 1);
          const truth = compose(
            translation(shift, -shift),
            compose(rotationAbout(turn, [0, 0]), scalingAbout(scale, [0, 0])),
          );
          const fit = fitSimilarity(
            points.map((from) => ({ from, to: applyTransform(truth, from), weight: 1 + Math.abs(from[0]) })),
          )!;
          expect(apart(fit.transform, truth)).toBeLessThan(1e-5);
          expect(fit.residual).toBeLessThan(1e-6);
        },
      ),
    ));
  it('says nothing where all points are one', () =>
    expect(
      fitSimilarity([
        { from: [1, 1], to: [2, 2], weight: 1 },
        { from: [1, 1], to: [3, 3], weight: 1 },
      ]),
    ).toBeNull());
});
