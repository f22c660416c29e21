import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { kindCode, type PageText } from '@calque/core/linework';
import { proposalsOn } from '@calque/core/proposals';
import { HOUSE, K, sheet, type Line, type Place } from './given-seen.ts';

const word = (text: string, x: number, y: number): PageText => ({
  text,
  object: 0,
  kind: kindCode('text'),
  x: 200 + x * K,
  y: 200 + y * K,
  height: 6,
  radians: 0,
  layer: -1,
  width: 4,
});
/** Risers along x from a place, so far apart, so long. */
const flight = (n: number, going: number, wide: number, at: Place = [20000, 0]): Line[] =>
  Array.from({ length: n }, (_, i): Line => [
    [at[0] + i * going, at[1]],
    [at[0] + i * going, at[1] + wide],
  ]);
const seen = (lines: readonly Line[], texts: readonly PageText[] = [], move?: (p: Place) => Place) => {
  const l = sheet([...HOUSE.slice(0, 1), { pen: 1, lines }], move);
  l.texts = [...texts];
  return proposalsOn(l, 100).stairs;
};

describe('stairs', () => {
  it('are flights by their risers, up from where the sheet says so', () => {
    const lines = flight(12, 270, 1000);
    const [one, ...more] = seen(lines);
    expect(more).toEqual([]);
    expect(one.risers).toBe(12);
    expect(one.width).toBeCloseTo(1000, 0);
    expect(one.confidence).toBeLessThan(0.8);
    const foot = (texts: PageText[]) => (seen(lines, texts)[0].from[0] - 200) / K;
    expect(foot([word('UP', 20000, 500)])).toBeCloseTo(20000, 0);
    expect(foot([word('UP', 22900, 500)])).toBeCloseTo(20000 + 11 * 270, 0);
    expect(foot([word('DN', 22900, 500)])).toBeCloseTo(20000, 0);
    expect(seen(lines, [word('UP', 20000, 500)])[0].confidence).toBeGreaterThan(0.8);
  });

  it('are none of too few lines, tiles, shelves far apart, boards, or lines unevenly apart', () => {
    expect(seen(flight(4, 270, 1000))).toEqual([]);
    expect(seen(flight(10, 600, 1000))).toEqual([]);
    expect(seen(flight(10, 120, 1000))).toEqual([]);
    const tiles = [
      ...flight(11, 300, 3000),
      ...Array.from({ length: 11 }, (_, i): Line => [
        [20000, 300 * i],
        [23000, 300 * i],
      ]),
    ];
    expect(seen(tiles)).toEqual([]);
    // Those that go on to the walls of their room; a table with its words, but not the numbers of risers.
    const beyond = Array.from({ length: 6 }, (_, i): Line => [
      [19700, 150 + 300 * i],
      [22400, 150 + 300 * i],
    ]);
    expect(seen([...flight(8, 300, 2000), ...beyond])).toEqual([]);
    const words = (of: readonly string[]) => of.map((w, i) => word(w, 20150 + 300 * i, 900));
    expect(seen(flight(8, 300, 2000), words(['Door', 'Width', 'Height']))).toEqual([]);
    expect(seen(flight(8, 300, 2000), words(['1', '2', '3', '4', 'Hall']))).toHaveLength(1);
    const uneven = [0, 260, 560, 790, 1150, 1390].map((x): Line => [
      [20000 + x, 0],
      [20000 + x, 1000],
    ]);
    expect(seen(uneven)).toEqual([]);
  });

  it('are the same however the sheet lies', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.integer({ min: 5, max: 18 }),
        fc.integer({ min: 200, max: 400 }),
        fc.integer({ min: 700, max: 2500 }),
        (angle, n, going, wide) => {
          const turn = ([x, y]: Place): Place => [
              x * Math.cos(angle) - y * Math.sin(angle),
              x * Math.sin(angle) + y * Math.cos(angle),
            ],
            [one] = seen(flight(n, going, wide), [], turn);
          expect(one.risers).toBe(n);
          expect(Math.hypot(one.to[0] - one.from[0], one.to[1] - one.from[1]) / K).toBeCloseTo(
            (n - 1) * going,
            0,
          );
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('north', () => {
  /** An arrow of 2.4 m at 1:100 that points up, turned by an angle, with its letter before its tip. */
  const arrow = (angle: number) => {
    const at = (x: number, y: number): Place => [
        20000 + x * Math.cos(angle) - y * Math.sin(angle),
        3000 + x * Math.sin(angle) + y * Math.cos(angle),
      ],
      lines: Line[] = [
        [at(0, -1200), at(0, 1200)],
        [at(0, 1200), at(-250, 600)],
        [at(0, 1200), at(250, 600)],
      ];
    return { lines, letter: at(0, 1500) };
  };
  const seenNorth = (lines: readonly Line[], texts: readonly PageText[]) => {
    const l = sheet([...HOUSE.slice(0, 1), { pen: 1, lines }]);
    l.texts = [...texts];
    return proposalsOn(l, 100).north;
  };
  it('is where an arrow points at its letter, however it is turned; a letter by itself, or a line without a head, is none', () => {
    for (const angle of [0, 0.4, -1.2, 2.9]) {
      const { lines, letter } = arrow(angle),
        north = seenNorth(lines, [word('N', ...letter)])!,
        off = north.direction - (Math.PI / 2 + angle);
      expect(Math.abs(Math.atan2(Math.sin(off), Math.cos(off)))).toBeLessThan(0.01);
      expect((north.at[0] - 200) / K).toBeCloseTo(20000, 0);
      expect(seenNorth(lines.slice(0, 1), [word('N', ...letter)])).toBeNull();
      expect(seenNorth(lines, [word('M', ...letter)])).toBeNull();
    }
    expect(seenNorth([], [word('N', 20000, 3000)])).toBeNull();
    // One filled shape: a kite with a notch, a triangle; not one that is a slab, or askew.
    for (const angle of [0.3, -2]) {
      const at = (x: number, y: number): Place => [
          20000 + x * Math.cos(angle) - y * Math.sin(angle),
          3000 + x * Math.sin(angle) + y * Math.cos(angle),
        ],
        filled = (...corners: Place[]) => {
          const l = sheet(HOUSE.slice(0, 1)),
            points = corners.map(([x, y]) => at(x, y).map((v) => 200 + v * K));
          l.fillEdges = Float64Array.from(
            points.flatMap((p, i) => [...p, ...points[(i + 1) % points.length]]),
          );
          l.fillEdgeStyle = Int32Array.from(points.flatMap(() => [-1, -1]));
          l.fillEdgeObject = new Int32Array(points.length).fill(77);
          l.fillEdgeKind = new Uint8Array(points.length).fill(kindCode('fill'));
          l.texts = [word('N', ...at(0, 1500))];
          return proposalsOn(l, 100).north;
        };
      for (const shape of [
        [
          [0, 1200],
          [-450, -600],
          [0, -200],
          [450, -600],
        ],
        [
          [0, 1200],
          [-350, -600],
          [350, -600],
        ],
      ] as Place[][]) {
        const off = filled(...shape)!.direction - (Math.PI / 2 + angle);
        expect(Math.abs(Math.atan2(Math.sin(off), Math.cos(off)))).toBeLessThan(0.001);
      }
      expect(filled([-300, 1200], [300, 1200], [300, -600], [-300, -600])).toBeNull();
      expect(filled([0, 1200], [-100, -600], [700, -600])).toBeNull();
    }
    // The letter behind its foot says nothing.
    expect(seenNorth(arrow(0).lines, [word('N', 20000, 1500)])).toBeNull();
  });
});
