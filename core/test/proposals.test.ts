import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyLinework, kindCode, penKey, type Linework } from '@calque/core/linework';
import { HOUSE, K, MIDDLE, sheet, type Line, type Place } from './given-seen.ts';
import { applyTransform, type Transform } from '@calque/core/geometry';
import {
  chordedArcs,
  columnTaken,
  proposalsOn,
  proposedWalls,
  wallTaken,
  type ProposedOpening,
} from '@calque/core/proposals';

const TURN =
  (angle: number) =>
  ([x, y]: Place): Place => [
    x * Math.cos(angle) - y * Math.sin(angle),
    x * Math.sin(angle) + y * Math.cos(angle),
  ];

/** How much of the true middle lines was found, and how much of what was found is none; at 25 mm and a tenth of the thickness. */
function held(l: Linework, move: (p: Place) => Place = (p) => p, k = K, factor = 100) {
  const { walls } = proposedWalls(l, factor),
    truth = MIDDLE.map(([p, q, thickness]) => ({
      from: move(p).map((v) => 200 + v * k) as Place,
      to: move(q).map((v) => 200 + v * k) as Place,
      thickness,
    }));
  const share = (of: typeof truth, by: typeof truth) => {
    let [all, hit] = [0, 0];
    for (const w of of) {
      const n = Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]);
      for (let s = 0.5; s < n; s++) {
        const at: Place = [
          w.from[0] + ((w.to[0] - w.from[0]) * s) / n,
          w.from[1] + ((w.to[1] - w.from[1]) * s) / n,
        ];
        all++;
        if (
          by.some(
            (b) =>
              near(at, b, 25 * k) && Math.abs(b.thickness - w.thickness) <= Math.max(15, 0.1 * w.thickness),
          )
        )
          hit++;
      }
    }
    return all === 0 ? 1 : hit / all;
  };
  return { found: share(truth, walls), right: share(walls, truth), count: walls.length };
}
function near([x, y]: Place, { from, to }: { from: Place; to: Place }, slack: number): boolean {
  const n = Math.hypot(to[0] - from[0], to[1] - from[1]),
    [ux, uy] = [(to[0] - from[0]) / n, (to[1] - from[1]) / n],
    s = (x - from[0]) * ux + (y - from[1]) * uy;
  return s > -slack && s < n + slack && Math.abs((y - from[1]) * ux - (x - from[0]) * uy) <= slack;
}

describe('walls that a sheet shows', () => {
  it('are found by their faces, across openings, from junction to junction, and furniture is none', () => {
    const { walls, classes } = proposedWalls(sheet(HOUSE), 100),
      { found, right } = held(sheet(HOUSE));
    expect(
      classes
        .slice(0, 2)
        .map(Math.round)
        .sort((a, b) => a - b),
    ).toEqual([100, 300]);
    expect(found).toBeGreaterThan(0.99);
    expect(right).toBeGreaterThan(0.99);
    // The inner wall runs on across its door, from the middle of one outer wall to that of the other.
    const inner = walls.filter((w) => Math.abs(w.thickness - 100) < 2);
    expect(inner).toHaveLength(1);
    expect(Math.abs(inner[0].to[1] - inner[0].from[1]) / K).toBeCloseTo(8000, 0);
    for (const w of walls) expect(w.confidence > 0 && w.confidence < 1).toBe(true);
  });

  it('are the same however the sheet lies, at whatever scale, and in whatever order and pieces its lines are drawn', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
        fc.constantFrom(20, 50, 100, 200),
        fc.boolean(),
        fc.integer({ min: 1, max: 7 }),
        (angle, factor, mirrored, seed) => {
          const turn = TURN(angle),
            move = ([x, y]: Place): Place => turn([mirrored ? -x : x, y]),
            k = 72 / 25.4 / factor;
          const mixed = HOUSE.map(({ lines, pen }) => ({
            pen,
            lines: [...lines]
              .sort(([a], [b]) => Math.sin(seed * (a[0] + 2 * a[1])) - Math.sin(seed * (b[0] + 2 * b[1])))
              .flatMap(([p, q], i): Line[] => {
                if ((i + seed) % 3 !== 0) return [[p, q]];
                const m: Place = [p[0] + 0.4 * (q[0] - p[0]), p[1] + 0.4 * (q[1] - p[1])];
                return [
                  [q, m],
                  [m, p],
                ];
              }),
          }));
          const { found, right } = held(sheet(mixed, move, k), move, k, factor);
          expect(found).toBeGreaterThan(0.97);
          expect(right).toBeGreaterThan(0.97);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('are none on a sheet without any', () => {
    expect(proposedWalls(emptyLinework(600, 400), 100)).toMatchObject({ walls: [], classes: [] });
    const table = sheet([
      {
        pen: 1,
        lines: Array.from({ length: 12 }, (_, i): Line => [
          [0, 500 * i],
          [9000, 500 * i],
        ]),
      },
    ]);
    expect(
      proposedWalls({ ...table, segmentKind: table.segmentKind.fill(kindCode('dimension')) }, 100).walls,
    ).toEqual([]);
  });
});

describe('an arc of chords', () => {
  it('is found however its chords lie and run, and a polygon, a row of steps and two lines are none', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 500, max: 1500, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.integer({ min: 6, max: 16 }),
        fc.boolean(),
        (r, start, count, turned) => {
          const at = (i: number): Place => {
            const a = start + (i * Math.PI) / 2 / count;
            return [4000 + r * Math.cos(a), 3000 + r * Math.sin(a)];
          };
          const chords = Array.from({ length: count }, (_, i): [number, number, number, number] =>
            i % 2 === 0 || turned ? [...at(i), ...at(i + 1)] : [...at(i + 1), ...at(i)],
          ).sort((a, b) => Math.sin(a[0]) - Math.sin(b[0]));
          const [arc, ...more] = chordedArcs(chords);
          expect(more).toEqual([]);
          expect(arc.r).toBeCloseTo(r, 4);
          expect(Math.hypot(arc.cx - 4000, arc.cy - 3000)).toBeLessThan(1e-3);
          expect(arc.end - arc.start).toBeCloseTo(Math.PI / 2, 6);
        },
      ),
    );
    const steps = Array.from({ length: 12 }, (_, i): [number, number, number, number] =>
      i % 2 === 0
        ? [100 * (i / 2), 100 * (i / 2), 100 * (i / 2 + 1), 100 * (i / 2)]
        : [100 * ((i + 1) / 2), 100 * ((i - 1) / 2), 100 * ((i + 1) / 2), 100 * ((i + 1) / 2)],
    );
    expect(chordedArcs(steps)).toEqual([]);
    expect(
      chordedArcs([
        [0, 0, 100, 0],
        [100, 0, 199, 10],
      ]),
    ).toEqual([]);
  });
});

describe('what is taken', () => {
  const door: ProposedOpening = {
    kind: 'door',
    at: [0, 0],
    width: 900,
    wall: 0,
    from: 1000,
    to: 1900,
    leaves: 1,
    folds: false,
    hung: 'from',
    opens: 'left',
    swing: { hinge: [0, 0], clockwise: false },
    tag: 'D07',
    height: 2010,
    sill: null,
    type: 'Flush',
    material: null,
    confidence: 0.9,
  };
  const standing = { height: 2700, heightAssumed: true };

  it('lies where the sheet lies, turned or mirrored, with its doors hung as they are drawn', () => {
    for (const mirrored of [false, true])
      for (const angle of [0, 0.7, -2]) {
        const s = 100 / K / 100,
          [c, n] = [Math.cos(angle) * s, Math.sin(angle) * s],
          place: Transform = mirrored ? [c, n, n, -c, 500, -300] : [c, n, -n, c, 500, -300],
          wall = wallTaken(
            { from: [10, 20], to: [10 + 5000 * K, 20], thickness: 100, arc: null },
            [door],
            place,
            standing,
          );
        expect(Math.hypot(wall.to[0] - wall.from[0], wall.to[1] - wall.from[1])).toBeCloseTo(5000, 3);
        expect(wall.from).toEqual([...applyTransform(place, [10, 20])]);
        const [o] = wall.openings!;
        expect([o.kind, o.hung, o.opens, o.tag, o.leaves]).toEqual([
          'door',
          'from',
          mirrored ? 'right' : 'left',
          'D07',
          1,
        ]);
        expect(o.assumed).not.toContain('swing');
        expect(Math.hypot(o.to[0] - o.from[0], o.to[1] - o.from[1])).toBeCloseTo(900, 3);
      }
  });

  it('a column keeps its size and stands turned as the sheet lies', () => {
    const column = columnTaken(
      { at: [5, 5], width: 240, depth: 400, turn: 0.2, round: false, confidence: 1 },
      [0, 35, -35, 0, 0, 0],
      standing,
    );
    expect(column.section).toEqual({ form: 'rectangle', width: 240, depth: 400 });
    expect(column.angle).toBeCloseTo(0.2 + Math.PI / 2, 9);
  });
});

it('a stretched sheet is seen as it is meant, and told where it lies', () => {
  const plain = sheet(HOUSE),
    tall = sheet(HOUSE, ([x, y]) => [x, y * 1.02]),
    one = proposalsOn(plain, 100),
    other = proposalsOn(tall, { x: 100, y: 100 / 1.02 });
  expect(other.walls).toHaveLength(one.walls.length);
  expect(other.rooms.map((r) => r.area.toFixed(2)).sort()).toEqual(
    one.rooms.map((r) => r.area.toFixed(2)).sort(),
  );
  const highest = (p: typeof one) => Math.max(...p.walls.flatMap((w) => [w.from[1], w.to[1]]));
  expect(highest(other) - 200).toBeCloseTo((highest(one) - 200) * 1.02, 1);
});

it('a bent wall is two arcs about one centre as far apart as walls are thick; rings of a table are none', () => {
  const l = sheet(HOUSE),
    arc = (x: number, y: number, r: number, from: number, to: number) => [
      200 + x * K,
      200 + y * K,
      r * K,
      from,
      to,
    ],
    arcs = [
      arc(12000, 4000, 2850, -Math.PI / 2, Math.PI / 2),
      // The outer face in two pieces.
      arc(12000, 4000, 3150, -Math.PI / 2, 0.3),
      arc(12000, 4000, 3150, 0.3, Math.PI / 2),
      arc(3000, 4000, 400, 0, 2 * Math.PI - 0.01),
      arc(3000, 4000, 500, 0, 2 * Math.PI - 0.01),
      // A door beside nothing.
      arc(8000, 4000, 900, 0, Math.PI / 2),
    ];
  l.arcs = Float64Array.from(arcs.flat());
  l.arcStyle = Int32Array.from(arcs.flatMap(() => [-1, 0]));
  l.arcKind = new Uint8Array(arcs.length).fill(kindCode('curve'));
  const { walls } = proposalsOn(l, 100),
    bent = walls.filter((w) => w.arc !== null);
  expect(bent).toHaveLength(1);
  expect(bent[0].thickness).toBeCloseTo(300, 6);
  expect(bent[0].arc!.radius / K).toBeCloseTo(3000, 6);
  expect(bent[0].arc!.sweep).toBeCloseTo(Math.PI, 6);
  const wall = wallTaken(bent[0], [], [1 / K, 0, 0, 1 / K, -200 / K, -200 / K], {
    height: 2700,
    heightAssumed: true,
  });
  // A half turn: its bulge is the tangent of an eighth of the whole.
  expect(wall.curve).toBeCloseTo(1, 6);
  expect(Math.hypot(wall.to[0] - wall.from[0], wall.to[1] - wall.from[1])).toBeCloseTo(6000, 3);
});

describe('a sheet that means harm', () => {
  const lines = (rows: readonly number[][]) => {
    const l = emptyLinework(2400, 1700);
    l.pens = [{ width: 0.3, colour: 0, dash: [] }];
    l.segments = Float64Array.from(rows.flat());
    l.segmentStyle = Int32Array.from(rows.flatMap(() => [-1, 0]));
    l.segmentKind = new Uint8Array(rows.length).fill(kindCode('line'));
    return l;
  };
  it.each([
    [
      'thousands of lines side by side',
      lines(Array.from({ length: 3000 }, (_, i) => [10, 0.5 * i, 2300, 0.5 * i])),
    ],
    [
      'a fan of lines from one point',
      lines(Array.from({ length: 8000 }, (_, i) => [900, 800, 900 + 3 * Math.cos(i), 800 + 3 * Math.sin(i)])),
    ],
    ['one line thousands of times', lines(Array.from({ length: 20000 }, () => [100, 100, 104, 100]))],
    [
      'figures that are none',
      lines([
        [NaN, 1, 2, 3],
        [Infinity, 0, 1, 1],
        [0, 0, 1e9, 0],
        [5, 5, 5, 5],
      ]),
    ],
  ])('%s is looked at and ends', { timeout: 30000 }, (_, l) => {
    const { walls } = proposalsOn(l, 100);
    for (const w of walls)
      expect([...w.from, ...w.to, w.thickness, w.confidence].every(Number.isFinite)).toBe(true);
  });

  it('rounds about one centre are walls of half a turn at most, each with two ends', () => {
    const l = sheet(HOUSE),
      arcs = [3000, 3300].map((r) => [400, 400, r * K, 0.5, 0.5 + 2 * Math.PI - 1e-6]);
    l.arcs = Float64Array.from(arcs.flat());
    l.arcStyle = Int32Array.from(arcs.flatMap(() => [-1, 0]));
    l.arcKind = new Uint8Array(2).fill(kindCode('curve'));
    const bent = proposalsOn(l, 100).walls.filter((w) => w.arc);
    expect(bent.length).toBeGreaterThanOrEqual(2);
    for (const w of bent) {
      expect(w.arc!.sweep).toBeLessThanOrEqual(Math.PI + 1e-9);
      expect(Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1])).toBeGreaterThan(1);
    }
  });

  it('what is switched off, or lies beyond what is laid, shows nothing', () => {
    const l = sheet(HOUSE),
      off = { layers: {}, kinds: [], pens: [penKey(l.pens[0])], authors: [], markupKinds: [] };
    expect(
      proposalsOn(l, 100, { switches: off }).walls.filter((w) => Math.abs(w.thickness - 300) < 5),
    ).toEqual([]);
    const far: Place[] = [
      [800, 800],
      [890, 800],
      [890, 890],
    ];
    expect(proposalsOn(l, 100, { ring: far }).walls).toEqual([]);
  });
});
