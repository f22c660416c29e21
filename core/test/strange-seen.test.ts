import { describe, expect, it } from 'vitest';
import { kindCode, recogniseKinds, type Linework, type PageText } from '@calque/core/linework';
import { proposalsOn, type Proposals } from '@calque/core/proposals';
import { HOUSE, K, rectangle, sheet, wall, type Line, type Place } from './given-seen.ts';

const seenOf = (parts: readonly { pen: number; lines: readonly Line[] }[]) => proposalsOn(sheet(parts), 100);
const withThin = (lines: readonly Line[]) => seenOf([...HOUSE, { pen: 1, lines }]);
/** The inner wall of the house stands at 5000, open from 3150 to 4050. */
const innerOpenings = (p: Proposals) => {
  const inner = p.walls.findIndex((w) => Math.abs(w.thickness - 100) < 5);
  return p.openings.filter((o) => o.wall === inner);
};
const lengths = (p: Proposals, thickness: number) =>
  p.walls
    .filter((w) => Math.abs(w.thickness - thickness) < 5)
    .map((w) => Math.round(Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]) / K));
const line = (x0: number, y0: number, x1: number, y1: number): Line => [
  [x0, y0],
  [x1, y1],
];
const withArc = (l: Linework, [x, y, r, a, b]: readonly number[]): Linework => ({
  ...l,
  arcs: Float64Array.of(200 + x * K, 200 + y * K, r * K, a, b),
  arcStyle: Int32Array.of(-1, 1),
  arcKind: Uint8Array.of(kindCode('curve')),
});
const text = (words: string, x: number, y: number): PageText =>
  ({
    text: words,
    object: 9,
    kind: kindCode('text'),
    x: 200 + x * K - 4,
    y: 200 + y * K - 2,
    height: 6,
    width: 8,
    radians: 0,
    layer: -1,
  }) satisfies PageText;

/** Without what closes an opening: the faces end there. */
const isJamb = ([p, q]: Line) => Math.hypot(p[0] - q[0], p[1] - q[1]) < 350;

describe('habits that are unlike', () => {
  it('walls run on across openings that no jamb closes, and end where a line closes them', () => {
    const bare = HOUSE.map((p) => ({ ...p, lines: p.lines.filter((l) => p.pen === 1 || !isJamb(l)) })),
      seen = seenOf(bare);
    expect(lengths(seen, 100)).toEqual([8000]);
    expect(innerOpenings(seen).map((o) => [o.kind, Math.round(o.from), Math.round(o.to)])).toEqual([
      ['gap', 3150, 4050],
    ]);
    // Two walls in one line, each closed, as far apart as no opening is.
    const two = seenOf([
      ...HOUSE,
      {
        pen: 0,
        lines: [
          ...wall([20000, 0], [24000, 0], 300, [[4000, 4000]]),
          line(24000, -150, 24000, 150),
          ...wall([29000, 0], [33000, 0], 300),
          line(29000, -150, 29000, 150),
          line(20000, -150, 20000, 150),
          line(33000, -150, 33000, 150),
        ],
      },
    ]);
    expect(lengths(two, 300).filter((n) => n > 8500 && n < 13000).length).toBe(2);
  });

  it('a kerb beside a house, and the frame round a sheet, are no walls', () => {
    const house = lengths(seenOf(HOUSE), 300).length,
      kerb = seenOf([
        ...HOUSE,
        { pen: 0, lines: [line(-2000, -2000, 14000, -2000), line(-2000, -1850, 14000, -1850)] },
      ]);
    expect(lengths(kerb, 150)).toEqual([]);
    expect(lengths(kerb, 300)).toHaveLength(house);
    // 900 by 900 points: round it two lines six points apart.
    const [low, high] = [-190 / K, 690 / K],
      frame = [0, 6 / K].flatMap((d) => rectangle(low + d, low + d, high - low - 2 * d, high - low - 2 * d)),
      framed = seenOf([...HOUSE, { pen: 0, lines: frame }]);
    expect(lengths(framed, 300)).toHaveLength(house);
    expect(framed.walls).toHaveLength(seenOf(HOUSE).walls.length);
    // Without a house within it may be a yard.
    expect(seenOf([{ pen: 0, lines: frame }]).walls.length).toBeGreaterThan(0);
  });

  it('a door is as wide as its wall is cut, whichever pen draws its frame; studs are no frame', () => {
    const frame = [line(4950, 3200, 5050, 3200), line(4950, 4000, 5050, 4000)],
      leaf = [line(5050, 3200, 5850, 3200)],
      sides = [4950, 5050].flatMap((x) => [line(x, 3150, x, 3200), line(x, 4000, x, 4050)]),
      swing = [5050, 3200, 800, 0, Math.PI / 2] as const;
    for (const pen of [0, 1]) {
      const parts = [...HOUSE, { pen, lines: [...frame, ...sides] }, { pen: 1, lines: leaf }],
        [door] = innerOpenings(proposalsOn(withArc(sheet(parts), swing), 100));
      expect([door.kind, Math.round(door.width)], `pen ${pen}`).toEqual(['door', 900]);
      expect(door.swing).not.toBeNull();
    }
    // A stud behind either jamb, and more along the wall.
    const studs = [3105, 4095, 600, 645, 1200, 1245, 1800, 1845, 5400, 5445, 6000, 6045, 6600, 6645].map(
        (y) => line(4950, y, 5050, y),
      ),
      parts = [...HOUSE, { pen: 0, lines: studs }, { pen: 1, lines: [line(5050, 3150, 5950, 3150)] }],
      [door] = innerOpenings(proposalsOn(withArc(sheet(parts), [5050, 3150, 900, 0, Math.PI / 2]), 100));
    expect(Math.round(door.width)).toBe(900);
  });

  it('leaves fold to and fro, come out of their wall, or stand as thin boxes; sides of furniture are none', () => {
    const zigzag: Place[] = [3150, 3260, 3370, 3480, 3590].map((y, i) => [i % 2 === 0 ? 5050 : 5230, y]),
      [folding] = innerOpenings(withThin(zigzag.slice(1).map((p, i): Line => [zigzag[i], p])));
    expect(folding).toMatchObject({ kind: 'door', leaves: 0, folds: true, swing: null });
    const [pocket] = innerOpenings(withThin(rectangle(4985, 2600, 30, 900)));
    expect(pocket).toMatchObject({ kind: 'door', leaves: 0, folds: false });
    // A sink before the opening: half as long as it is wide.
    const [sink] = innerOpenings(withThin(rectangle(5060, 3160, 500, 440)));
    expect(sink.kind).toBe('gap');
    // One of the leaves alone is a line like others.
    expect(innerOpenings(withThin([line(5050, 3150, 5230, 3260)]))[0].kind).toBe('gap');
  });

  it('what is drawn dashed lies overhead: the opening beneath stays one', () => {
    const parts = [
        ...HOUSE,
        { pen: 2, lines: [line(4950, 3150, 4950, 4050), line(5050, 3150, 5050, 4050)] },
        { pen: 2, lines: rectangle(5050, 3150, 900, 900) },
      ],
      l = sheet(parts);
    l.pens = [...l.pens, { width: 0.3, colour: 0, dash: [3, 2] }];
    expect(innerOpenings(proposalsOn(l, 100)).map((o) => [o.kind, Math.round(o.width)])).toEqual([
      ['gap', 900],
    ]);
  });

  it('a thin wall with a free end parts cubicles, unless an arc goes round it as round a leaf', () => {
    // From the left wall of the house, of whose middle it begins.
    const parts = [
        ...HOUSE,
        {
          pen: 0,
          lines: [line(150, 5000, 1350, 5000), line(150, 5050, 1350, 5050), line(1350, 5000, 1350, 5050)],
        },
      ],
      thin = (l: Linework) => proposalsOn(l, 100).walls.filter((w) => Math.abs(w.thickness - 50) < 3).length,
      plain = sheet(parts);
    expect(thin(plain)).toBe(1);
    expect(thin(withArc(plain, [150, 5025, 1200, 0, Math.PI / 2]))).toBe(0);
  });

  it('a casement shuts between panes: a window, though it swings', () => {
    const panes = [-30, 30].map((v) => line(5000 + v, 3150, 5000 + v, 4050)),
      faces = [-50, 50].map((v) => line(5000 + v, 3150, 5000 + v, 4050)),
      parts = [...HOUSE, { pen: 1, lines: [...panes, ...faces, line(5050, 3150, 5950, 3150)] }],
      [window] = innerOpenings(proposalsOn(withArc(sheet(parts), [5050, 3150, 900, 0, Math.PI / 2]), 100));
    expect(window.kind).toBe('window');
  });

  it('panes are told from the layers of their wall by where they lie, though one pen draws all', () => {
    const whole = HOUSE.map((p) => ({
        ...p,
        lines: p.lines.filter(
          ([[x0], [x1]]) => p.pen === 1 || Math.min(x0, x1) < 4900 || Math.max(x0, x1) > 5100,
        ),
      })),
      faces = [4900, 5100].map((x) => line(x, 150, x, 7850)),
      jambs = [3150, 4050].map((y) => line(4900, y, 5100, y)),
      layers = (from: number, to: number) => [4930, 5070].map((x) => line(x, from, x, to)),
      panes = [4980, 5010].map((x) => line(x, 3150, x, 4050));
    // Another wall as thick, without layers.
    const plain = [2900, 3100].map((y) => line(5100, y, 11850, y));
    const wallOf = (more: readonly Line[]) => {
      const seen = seenOf([...whole, { pen: 0, lines: [...faces, ...plain, ...jambs, ...more] }]),
        number = seen.walls.findIndex(
          (w) => Math.abs(w.thickness - 200) < 5 && Math.abs(w.from[0] - w.to[0]) < 1,
        );
      return seen.openings.filter((o) => o.wall === number).map((o) => o.kind);
    };
    expect(wallOf([...layers(150, 3150), ...layers(4050, 7850), ...panes])).toEqual(['window']);
    // The layers go on: nothing is open there.
    expect(wallOf([...layers(150, 3150), ...layers(3150, 4050), ...layers(4050, 7850)])).toEqual([]);
  });

  it('what lies under a white patch is no wall, what lies over it is one', () => {
    const whole = HOUSE.map((p) => ({
        ...p,
        lines: p.lines.filter(
          ([[x0], [x1]]) => p.pen === 1 || Math.min(x0, x1) < 4940 || Math.max(x0, x1) > 5060,
        ),
      })),
      l = sheet([
        ...whole,
        {
          pen: 0,
          lines: [
            ...wall([5000, 150], [5000, 7850], 100),
            ...[3150, 4050].map((y) => line(4950, y, 5050, y)),
          ],
        },
      ]),
      ring = (
        [
          [4900, 3150],
          [5100, 3150],
          [5100, 4050],
          [4900, 4050],
        ] as Place[]
      ).map(([x, y]): Place => [200 + x * K, 200 + y * K]);
    l.segmentObject = new Int32Array(l.segmentKind.length).fill(5);
    const kinds = (object: number | null) =>
      innerOpenings(proposalsOn(object === null ? l : { ...l, patches: [{ object, ring }] }, 100)).map(
        (o) => o.kind,
      );
    expect(kinds(null)).toEqual([]);
    expect(kinds(7)).toEqual(['gap']);
    expect(kinds(3)).toEqual([]);
    // A patch on a layer that is off hides nothing.
    l.layers = [{ name: 'Masks', on: false, segments: 0 }];
    l.objects = new Int32Array(24).fill(-1);
    l.objects[3 * 7] = 0;
    expect(kinds(7)).toEqual([]);
  });
});

describe('columns that say so by nothing but where they stand', () => {
  const grid = (size: number, places: readonly Place[]) =>
    places.flatMap(([x, y]) => rectangle(x - size / 2, y - size / 2, size, size));
  const rows: Place[] = [
    [1500, 4000],
    [1500, 6500],
    [3800, 4000],
    [3800, 6500],
  ];
  it('stand in rows, far apart and free; basins in counters, tags and three of them do not', () => {
    expect(withThin(grid(300, rows)).columns).toHaveLength(4);
    expect(withThin(grid(300, rows.slice(1))).columns).toEqual([]);
    const counters = rows.flatMap(([x, y]) => rectangle(x - 230, y - 230, 900, 460));
    expect(withThin([...grid(300, rows), ...counters]).columns).toEqual([]);
    const tagged = sheet([...HOUSE, { pen: 1, lines: grid(300, rows) }]);
    tagged.texts = rows.map(([x, y], i) => text(`T${i}`, x, y));
    expect(proposalsOn(tagged, 100).columns).toEqual([]);
    const askew = rows.map(([x, y], i): Place => [x + [0, 310, -170, 90][i], y + [130, -260, 0, 350][i]]);
    expect(withThin(grid(300, askew)).columns).toEqual([]);
  });
});

describe('hatches and dimensions among walls', () => {
  const kindsOf = (l: Linework) => {
    l.segmentObject = new Int32Array(l.segmentKind.length);
    recogniseKinds(l);
    return [...l.segmentKind];
  };
  const HATCH = kindCode('hatch'),
    DIMENSION = kindCode('dimension');

  it('walls that stand end to end, as far apart as they are thick, are no hatch; rows beside one another are', () => {
    const level = (y: number, from: number, to: number) => line(from, y, to, y);
    const ends = [0, 100, 200, 300, 400, 500].map((y, i) =>
      i % 4 < 2 ? level(y, 0, 3000) : level(y, 3050, 6000),
    );
    expect(kindsOf(sheet([{ pen: 0, lines: ends }]))).not.toContain(HATCH);
    const beside = [0, 100, 200, 300, 400, 500].map((y) => level(y, 7 * y, 3000 + 5 * y));
    expect(new Set(kindsOf(sheet([{ pen: 0, lines: beside }])))).toEqual(new Set([HATCH]));
  });

  it('a face that is the first of a row with another spacing is none of it', () => {
    // Two faces with a line midway, and cupboards 600 apart from the second on.
    const lines = [0, 50, 100, 700, 1300].map((y) => line(0, y, 4000 - y, y));
    expect(kindsOf(sheet([{ pen: 0, lines }], (p) => p, K / 2))).not.toContain(HATCH);
  });

  it('of lines at the ends of a dimension those are taken that stand where its ticks do', () => {
    const dim = line(0, 1000, 3000, 1000),
      ticks = [0, 3000].map((x) => line(x - 60, 940, x + 60, 1060)),
      witness = [0, 3000].map((x) => line(x, 900, x, 1080)),
      // Faces of the walls that it ends at, panes before one of them, a leaf across it.
      faces = [0, 3000].map((x) => line(x, -2000, x, 4000)),
      others = [line(2900, 0, 2900, 4000), line(140, 990, 140, 3000)],
      l = sheet([{ pen: 1, lines: [dim, ...ticks, ...witness, ...faces, ...others] }]);
    l.texts = [{ ...text('3000', 1500, 1080), width: 16 }];
    const kinds = kindsOf(l);
    expect(kinds.slice(0, 5)).toEqual([DIMENSION, DIMENSION, DIMENSION, DIMENSION, DIMENSION]);
    expect(kinds.slice(5)).not.toContain(DIMENSION);
  });
});
