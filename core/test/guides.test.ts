import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { segmentPiece } from '@calque/core/geometry';
import { nextGridName, nextName, namedApart, type GridLine } from '@calque/core/model';
import { alongGrid, alongGuides, fromGrid, gridLines, guidesOf, type Grid } from '@calque/core/snapping';

const best = (offered: ReturnType<typeof alongGuides>) => [...offered].sort((a, b) => a.score - b.score)[0];

describe('guides of what was touched', () => {
  const touched = [{ at: [1000, 500] as const, lines: [] }];
  it('offer places level and upright with it, but none right beside it', () => {
    expect(best(alongGuides(guidesOf(touched, null), [3000, 504], 10, []))).toMatchObject({
      kind: 'inline',
      x: 3000,
      y: 500,
    });
    expect(best(alongGuides(guidesOf(touched, null), [994, 4000], 10, []))).toMatchObject({
      kind: 'inline',
      x: 1000,
      y: 4000,
    });
    expect(alongGuides(guidesOf(touched, null), [1003, 502], 10, [])).toEqual([]);
    expect(alongGuides(guidesOf(touched, null), [3000, 511], 10, [])).toEqual([]);
  });
  it('offer where two of them meet before a place on one alone', () => {
    const guides = guidesOf([...touched, { at: [4000, 3000], lines: [] }], null);
    expect(best(alongGuides(guides, [3996, 503], 10, []))).toMatchObject({ kind: 'inline', x: 4000, y: 500 });
  });
  it('offer where one meets a line that lies there, not one that runs along it', () => {
    const lines = [{ piece: segmentPiece([2000, 0], [2600, 1200]), lit: [] }];
    expect(best(alongGuides(guidesOf(touched, null), [2253, 497], 10, lines))).toMatchObject({
      kind: 'inline',
      x: 2250,
      y: 500,
    });
    const level = [{ piece: segmentPiece([2000, 500], [2600, 500.01]), lit: [] }];
    expect(alongGuides(guidesOf(touched, null), [2253, 497], 10, level)).toHaveLength(1);
  });
  it('go on along a touched line, and run parallel and square to it from the point before', () => {
    const slope = [
      {
        at: [0, 0] as const,
        lines: [
          [
            [0, 0],
            [300, 400],
          ],
        ] as const,
      },
    ];
    expect(best(alongGuides(guidesOf(slope, null), [901, 1199], 10, []))).toMatchObject({ kind: 'inline' });
    const from: [number, number] = [5000, 0];
    expect(best(alongGuides(guidesOf(slope, from), [5300, 401], 10, []))).toMatchObject({ kind: 'parallel' });
    const square = best(alongGuides(guidesOf(slope, from), [5800 + 3, -600 + 2], 10, []));
    expect(square.kind).toBe('parallel');
    // Square to (3, 4): the product is nothing.
    expect((square.x - 5000) * 3 + square.y * 4).toBeCloseTo(0, 6);
  });
  it('along the touched line itself offer nothing: that is found as the line that it is', () => {
    const level = guidesOf(
      [
        {
          at: [9000, 9000],
          lines: [
            [
              [0, 0],
              [1000, 0],
            ],
          ],
        },
      ],
      null,
    );
    expect(alongGuides(level, [500, 3], 10, [])).toEqual([]);
    expect(best(alongGuides(level, [1500, 3], 10, []))).toMatchObject({ kind: 'inline', x: 1500, y: 0 });
    expect(best(alongGuides(level, [-500, 3], 10, []))).toMatchObject({ kind: 'inline', x: -500, y: 0 });
  });
  it('two that are one guide are offered once', () => {
    expect(
      guidesOf(
        [
          {
            at: [0, 0],
            lines: [
              [
                [-5, 0],
                [5, 0],
              ],
            ],
          },
          { at: [900, 0], lines: [] },
        ],
        null,
      ),
    ).toHaveLength(3);
  });
});

describe('the grid', () => {
  const grid = fc.record({
    origin: fc.tuple(fc.integer({ min: -9000, max: 9000 }), fc.integer({ min: -9000, max: 9000 })),
    angle: fc.double({ min: -3, max: 3, noNaN: true }),
    across: fc.integer({ min: 50, max: 2000 }),
    up: fc.integer({ min: 50, max: 2000 }),
  });
  it('its crossings are found beside them, each spacing in its own direction', () => {
    fc.assert(
      fc.property(
        grid,
        fc.integer({ min: -50, max: 50 }),
        fc.integer({ min: -50, max: 50 }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (g: Grid, m, n, slip) => {
          const [x, y] = fromGrid(g, [m, n]),
            [found] = alongGrid(g, [x + slip, y - slip], 10);
          expect(found.kind).toBe('grid');
          expect(Math.hypot(found.x - x, found.y - y)).toBeLessThan(1e-6);
          // From crossing to crossing it is the spacing.
          const [right, above] = [fromGrid(g, [m + 1, n]), fromGrid(g, [m, n + 1])];
          expect(Math.hypot(right[0] - x, right[1] - y)).toBeCloseTo(g.across, 6);
          expect(Math.hypot(above[0] - x, above[1] - y)).toBeCloseTo(g.up, 6);
        },
      ),
    );
  });
  it('far from its lines it offers nothing, near one a place on it', () => {
    const plain: Grid = { origin: [100, 0], angle: 0, across: 1000, up: 500 };
    expect(alongGrid(plain, [600, 250], 10)).toEqual([]);
    expect(alongGrid(plain, [600, 503], 10)).toMatchObject([{ kind: 'grid', x: 600, y: 500 }]);
  });
  it('its lines in a box are all that run through it, and no others', () => {
    const lines = gridLines({ origin: [0, 0], angle: 0, across: 1000, up: 500 }, [-100, -100, 2100, 600], {
      across: 1,
      up: 1,
    });
    expect(lines.filter((l) => l.of === 'across').map((l) => l.from[0])).toEqual([0, 1000, 2000]);
    expect(lines.filter((l) => l.of === 'up').map((l) => l.from[1])).toEqual([0, 500]);
    expect(
      gridLines({ origin: [0, 0], angle: 0, across: 1000, up: 500 }, [-100, -100, 6100, 600], {
        across: 5,
        up: 5,
      }).map((l) => l.number + 0),
    ).toEqual([0, 5, 0]);
  });
});

describe('names of grid lines', () => {
  const line = (name: string, from: [number, number], to: [number, number]): GridLine => ({
    type: 'gridLine',
    id: name,
    planeId: 's',
    from,
    to,
    name,
    source: { underlayId: null, ends: 'typed', thickness: 'typed' },
  });
  it('count on: figures one way, letters the other, without I and O', () => {
    expect(['1', '9', 'A', 'H', 'N', 'Z', 'AZ', 'B2', 'X.'].map(nextName)).toEqual([
      '2',
      '10',
      'B',
      'J',
      'P',
      'AA',
      'BA',
      'B3',
      'X.1',
    ]);
    expect(nextGridName([], [0, 0], [0, 1])).toBe('1');
    const upright = [line('1', [0, 0], [0, 9000]), line('2', [5000, 0], [5000, 9000])];
    expect(nextGridName(upright, [9000, 0], [9000, 9000])).toBe('3');
    expect(nextGridName(upright, [0, 0], [9000, 0])).toBe('A');
    expect(nextGridName([...upright, line('A', [0, 0], [9000, 0])], [9000, 500], [0, 500])).toBe('B');
  });
  it('copies take names that are free, and keep those that are', () => {
    const one = line('1', [0, 0], [0, 9000]);
    expect(
      namedApart(
        [one],
        [line('1', [5, 0], [5, 9000]), line('1', [9, 0], [9, 9000]), line('7', [12, 0], [12, 9000])],
      ).map((l) => l.name),
    ).toEqual(['2', '3', '7']);
  });
});
