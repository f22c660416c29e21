import { describe, expect, it } from 'vitest';
import { arcOf, openingsOf } from '@calque/core/building';
import type { Transform } from '@calque/core/geometry';
import { kindCode, type Linework, type PageText } from '@calque/core/linework';
import type { Wall } from '@calque/core/model';
import { proposalsOn, wallTaken } from '@calque/core/proposals';
import { HOUSE, K, rectangle, sheet, wall, type Line } from './given-seen.ts';
import { wall as plainWall } from './given-walls.ts';

const MM = 1 / K;
const PLACEMENT: Transform = [MM, 0, 0, MM, -200 * MM, -200 * MM];
const STANDING = { height: 2700, heightAssumed: true };

function withArcs(
  l: Linework,
  arcs: readonly (readonly [number, number, number, number, number])[],
): Linework {
  l.arcs = Float64Array.from(arcs.flatMap(([x, y, r, a, b]) => [200 + x * K, 200 + y * K, r * K, a, b]));
  l.arcStyle = Int32Array.from(arcs.flatMap(() => [-1, 0]));
  l.arcKind = new Uint8Array(arcs.length).fill(kindCode('curve'));
  return l;
}

describe('openings in bent walls', () => {
  // A half round of 3 m about (12000, 4000), 300 thick, open by 20 degrees about its middle, with jambs.
  const HALF = (10 * Math.PI) / 180,
    at = (r: number, angle: number): [number, number] => [
      12000 + r * Math.cos(angle),
      4000 + r * Math.sin(angle),
    ],
    jambs = [-HALF, HALF].map((a): Line => [at(2850, a), at(3150, a)]);
  const bentSheet = (
    more: readonly Line[] = [],
    arcs: readonly (readonly [number, number, number, number, number])[] = [],
  ) =>
    withArcs(sheet([...HOUSE, { pen: 0, lines: [...jambs, ...more] }]), [
      ...[2850, 3150].flatMap((r) => [
        [12000, 4000, r, -Math.PI / 2, -HALF] as const,
        [12000, 4000, r, HALF, Math.PI / 2] as const,
      ]),
      ...arcs,
    ]);

  it('are found between their jambs, as wide as they are straight across, and taken where they lie on the arc', () => {
    const seen = proposalsOn(bentSheet(), 100),
      bent = seen.walls.findIndex((w) => w.arc !== null),
      [gap, ...more] = seen.openings.filter((o) => o.wall === bent);
    expect(more).toEqual([]);
    expect(gap.kind).toBe('gap');
    expect(gap.width).toBeCloseTo(2 * 3000 * Math.sin(HALF), 0);
    expect((gap.at[0] - 200) * MM).toBeCloseTo(15000, 0);
    expect((gap.at[1] - 200) * MM).toBeCloseTo(4000, 0);
    const taken: Wall = {
        ...plainWall('w', [0, 0], [1, 0]),
        ...wallTaken(seen.walls[bent], [gap], PLACEMENT, STANDING),
      },
      [own] = openingsOf(taken),
      arc = arcOf(taken)!;
    expect(own.to - own.from).toBeCloseTo(2 * HALF * 3000, 0);
    for (const p of [own.opening.from, own.opening.to])
      expect(Math.hypot(p[0] - arc.centre[0], p[1] - arc.centre[1])).toBeCloseTo(3000, 1);
  });

  it('are doors by the leaf and the arc of it, with the side to which they open', () => {
    const hinge = at(3150, -HALF),
      width = 2 * 3150 * Math.sin(HALF),
      // From the hinge straight out, and round to where it shuts.
      shut = at(3150, HALF),
      angle = Math.atan2(shut[1] - hinge[1], shut[0] - hinge[0]),
      leaf: Line = [
        hinge,
        [hinge[0] + width * Math.cos(angle - Math.PI / 2), hinge[1] + width * Math.sin(angle - Math.PI / 2)],
      ],
      seen = proposalsOn(bentSheet([leaf], [[hinge[0], hinge[1], width, angle - Math.PI / 2, angle]]), 100),
      bent = seen.walls.findIndex((w) => w.arc !== null),
      [door] = seen.openings.filter((o) => o.wall === bent);
    expect(door.kind).toBe('door');
    expect(door.swing).not.toBeNull();
    // It runs counter-clockwise: its right is the outside, to which the leaf opens.
    expect(door.opens).toBe('right');
    expect(
      Math.hypot((door.swing!.hinge[0] - 200) * MM - hinge[0], (door.swing!.hinge[1] - 200) * MM - hinge[1]),
    ).toBeLessThan(60);
  });
});

describe('leaves that do not swing', () => {
  const houseWith = (more: readonly Line[]) => sheet([...HOUSE, { pen: 1, lines: more }]);
  const inner = (l: Linework) => {
    const seen = proposalsOn(l, 100),
      wallOf = seen.walls.findIndex((w) => Math.abs(w.thickness - 100) < 5);
    return seen.openings.filter((o) => o.wall === wallOf);
  };
  it('slide before their wall or in it, half open; a thing that stands near is no leaf', () => {
    // The inner wall stands at 5000, open from 3150 to 4050.
    const [open] = inner(houseWith([]));
    expect(open.kind).toBe('gap');
    const [before] = inner(
      houseWith([
        [
          [5110, 3150],
          [5110, 3650],
        ],
      ]),
    );
    expect(before).toMatchObject({ kind: 'door', leaves: 0, swing: null });
    const table = inner(houseWith(rectangle(5300, 3200, 800, 700)));
    expect(table[0].kind).toBe('gap');
    // A threshold lies on a face.
    expect(
      inner(
        houseWith([
          [
            [5050, 3150],
            [5050, 4050],
          ],
        ]),
      )[0].kind,
    ).not.toBe('door');
  });
});

describe('what is printed of openings', () => {
  const words = (text: string, x: number, y: number): PageText => ({
    text,
    object: 0,
    kind: kindCode('text'),
    x,
    y,
    height: 6,
    radians: 0,
    layer: -1,
    width: 3.4 * text.length,
  });
  it('comes from beside them, and by their tag from a schedule on the sheet', () => {
    const l = sheet([...HOUSE, { pen: 0, lines: wall([1000, 8600], [1000, 8700], 10) }]);
    l.texts = [
      words('D04', 200 + 4500 * K, 200 + 3600 * K),
      ...[
        ['Door', 'Width', 'Height'],
        ['D04', '900', '2130'],
        ['D05', '1000', '2010'],
      ].flatMap((row, i) => row.map((t, j) => words(t, 620 + 60 * j, 700 - 12 * i))),
    ];
    const seen = proposalsOn(l, 100),
      door = seen.openings.find((o) => o.tag === 'D04')!;
    expect(door.height).toBe(2130);
    const taken = wallTaken(seen.walls[door.wall], [door], PLACEMENT, STANDING).openings![0];
    expect(taken.head - taken.sill).toBe(2130);
    expect(taken.assumed).not.toContain('head');
    for (const o of seen.openings) if (o !== door) expect(o.height).toBeNull();
  });
});

describe('what a person tells of walls', () => {
  it('drawn as single lines: of a pen, so thick, across their openings', () => {
    const plan: Line[] = [
        ...rectangle(0, 0, 9000, 6000).slice(1),
        [
          [0, 0],
          [3000, 0],
        ],
        [
          [3900, 0],
          [9000, 0],
        ],
        [
          [4000, 0],
          [4000, 6000],
        ],
      ],
      l = sheet([
        { pen: 0, lines: plan },
        { pen: 1, lines: rectangle(500, 500, 1800, 2000) },
      ]),
      [pen] = proposalsOn(l, 100).lines;
    expect(pen.width).toBeCloseTo(0.9, 6);
    const { walls, classes, openings } = proposalsOn(l, 100, {
      told: { notThick: [], pens: {}, single: { [pen.name]: 120 } },
    });
    expect(walls.map((w) => w.thickness.toFixed(6))).toEqual(Array(5).fill('120.000000'));
    expect(classes.map(Math.round)).toEqual([120]);
    // Their middles are the lines themselves.
    for (const w of walls)
      for (const p of [w.from, w.to])
        for (const v of p.map((q) => (q - 200) / K))
          expect(Math.min(...[0, 4000, 6000, 9000].map((c) => Math.abs(v - c)))).toBeLessThan(1);
    expect(openings).toHaveLength(1);
    expect(openings[0].width).toBeCloseTo(900, 0);
    // Without being told nothing of it is a wall so thick.
    expect(proposalsOn(l, 100).walls.filter((w) => Math.abs(w.thickness - 120) < 5)).toEqual([]);
  });

  it('of a thickness: those so thick are taken as thick as is said, the others as they are seen', () => {
    const told = { notThick: [], pens: {}, asThick: [{ was: 100, is: 115 }] },
      { walls, classes } = proposalsOn(sheet(HOUSE), 100, { told });
    expect(walls.filter((w) => w.thickness === 115)).toHaveLength(1);
    expect(walls.filter((w) => Math.abs(w.thickness - 300) < 3)).toHaveLength(4);
    expect(classes.map(Math.round).sort((a, b) => a - b)).toEqual([115, 300]);
  });
});
