import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PrintedDimension, PrintedReading } from '@calque/core/calibration';
import { arcPiece, segmentPiece, type Piece, type Point, type Transform } from '@calque/core/geometry';
import { emptyLinework, kindCode, type PageText } from '@calque/core/linework';
import { applyOrThrow, modelOf, ofType, type Change, type Underlay } from '@calque/core/model';
import {
  commonEdges,
  heldFigures,
  heldNotes,
  heldOnInk,
  holeNotes,
  inkOn,
  isAsPrinted,
  measuredOn,
  offeredFigures,
  planeState,
  readCallout,
  readHoleTables,
  settled,
  waysToMove,
  zeroOfTable,
  type SolidHole,
  type SolidView,
  type StandingFigure,
} from '@calque/core/part';
import { exactStyle, formatLength } from '@calque/core/units';
import { plane, PartDraft, PLANES } from './part-model.ts';

const ring = (points: Point[]): Piece[] =>
  points.map((p, i) => segmentPiece(p, points[(i + 1) % points.length]));
const circle = (cx: number, cy: number, r: number): Piece =>
  arcPiece({ cx, cy, r, start: 0, end: 2 * Math.PI });
/** A plate of 100 x 60 with holes of 10 at (20, 20) and (80, 40), and a hidden step at x 50. */
const PLATE: SolidView = {
  visible: [
    ...ring([
      [0, 0],
      [100, 0],
      [100, 60],
      [0, 60],
    ]),
    circle(20, 20, 5),
    circle(80, 40, 5),
  ],
  hidden: [segmentPiece([50, 0], [50, 60])],
};
const figure = (
  from: Point,
  to: Point,
  printed: number,
  more: Partial<StandingFigure> = {},
): StandingFigure => ({
  kind: 'length',
  printed,
  tolerance: null,
  half: 0.5,
  from,
  to,
  slack: 0.75,
  ...more,
});

describe('a printed figure on a solid', () => {
  it('is measured between what lies at its ends along it, wherever its line is drawn', () => {
    expect(measuredOn(PLATE, figure([0, -14], [100, -14], 100))).toEqual({ model: 100, agrees: true });
    expect(measuredOn(PLATE, figure([0, -14], [20.3, -14], 20))).toEqual({ model: 20, agrees: true });
    // From hole to hole, up; to the hidden step; over all slanting.
    expect(measuredOn(PLATE, figure([130, 20], [130, 40], 20)).agrees).toBe(true);
    expect(measuredOn(PLATE, figure([0, 70], [50, 70], 50)).agrees).toBe(true);
    expect(measuredOn(PLATE, figure([0, 0], [100, 60], Math.hypot(100, 60))).model).toBeCloseTo(
      Math.hypot(100, 60),
      9,
    );
    // To the farthest reach of a round.
    expect(measuredOn(PLATE, figure([0, 80], [85, 80], 85)).agrees).toBe(true);
  });

  it('differs where the solid does, and is absent where it has nothing', () => {
    expect(measuredOn(PLATE, figure([0, -14], [100, -14], 101))).toEqual({ model: 100, agrees: false });
    expect(measuredOn(PLATE, figure([0, -14], [64, -14], 64))).toEqual({ model: null, agrees: false });
  });

  it('is found where it drives, though the sheet draws it elsewhere', () => {
    // Drawn 94 long, printed 100, and the solid is as printed.
    expect(measuredOn(PLATE, figure([0, -14], [94, -14], 100))).toEqual({ model: 100, agrees: true });
  });

  it('measures rounds by their centre or rim', () => {
    expect(measuredOn(PLATE, figure([15, 20], [25, 20], 10, { kind: 'diameter' })).agrees).toBe(true);
    expect(measuredOn(PLATE, figure([80, 40], [84.8, 41], 5, { kind: 'radius' })).model).toBe(5);
    expect(measuredOn(PLATE, figure([15, 20], [25, 20], 11, { kind: 'diameter' }))).toEqual({
      model: 10,
      agrees: false,
    });
    expect(measuredOn(PLATE, figure([40, 40], [45, 40], 5, { kind: 'radius' })).model).toBeNull();
  });

  it('agrees within its own tolerance, else as well as it is written', () => {
    const is = (
      model: number,
      printed: number,
      half: number,
      tolerance: StandingFigure['tolerance'] = null,
    ) => isAsPrinted(model, { printed, half, tolerance });
    expect([is(100.04, 100, 0.5), is(100.06, 100, 0.5)]).toEqual([true, false]);
    expect([is(12.504, 12.5, 0.05), is(12.56, 12.5, 0.05)]).toEqual([true, false]);
    // 3.94 in: written to a hundredth of an inch.
    expect([is(100, 3.94 * 25.4, 0.127), is(100.3, 3.94 * 25.4, 0.127)]).toEqual([true, false]);
    const t = { plus: 0.2, minus: 0 };
    expect([is(10.2, 10, 0.5, t), is(9.99, 10, 0.5, t)]).toEqual([true, false]);
  });

  it('a plate turned and shifted measures the same', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.integer({ min: -500, max: 500 }),
        (angle, off) => {
          const [c, s] = [Math.cos(angle), Math.sin(angle)],
            at = ([x, y]: Point): Point => [c * x - s * y + off, s * x + c * y - off];
          const turned: SolidView = {
            visible: PLATE.visible.map((p) =>
              p.kind === 'segment'
                ? segmentPiece(at(p.from), at(p.to))
                : p.kind === 'arc'
                  ? circle(...(at([p.arc.cx, p.arc.cy]) as [number, number]), p.arc.r)
                  : p,
            ),
            hidden: [],
          };
          for (const [from, to, length] of [
            [[0, -9], [100, -9], 100],
            [[110, 20], [110, 40], 20],
          ] as [Point, Point, number][])
            expect(measuredOn(turned, figure(at(from), at(to), length)).agrees).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
});

const hole = (diameter: number, more: Partial<SolidHole> = {}): SolidHole => ({
  diameter,
  depth: null,
  head: null,
  thread: null,
  ...more,
});
const note = (text: string) => readCallout(text, 'mm')!;

describe('notes at holes on a solid', () => {
  it('are counted over all notes that say the same', () => {
    const four = [hole(9), hole(9), hole(9), hole(9)];
    expect(heldNotes([note('4x Ø9 THRU')], four)[0].agrees).toBe(true);
    expect(heldNotes([note('2x Ø9 THRU'), note('2x Ø9 THRU')], four).every((h) => h.agrees)).toBe(true);
    expect(heldNotes([note('4x Ø9 THRU')], four.slice(1))[0]).toEqual({
      model: 9,
      agrees: false,
      words: 'the solid has 3 of them, not 4',
    });
    // One that says no number asks for one at least.
    expect(heldNotes([note('Ø9')], four)[0].agrees).toBe(true);
  });

  it('say what differs: depth, head, thread, size', () => {
    const held = (text: string, h: SolidHole) => heldNotes([note(text)], [h])[0];
    expect(held('Ø9 THRU', hole(9, { depth: 8 })).words).toContain('not drilled through');
    expect(held('Ø8.5 ↧ 22', hole(8.5, { depth: 20 })).words).toBe('it is 20.00 mm deep');
    expect(held('Ø9 ⌴ Ø15 ↧ 8', hole(9)).words).toBe('it has no counterbore');
    const bored = hole(9, { head: { diameter: 15, depth: 7, angle: null } });
    expect(held('Ø9 ⌴ Ø15 ↧ 8', bored).words).toBe('its counterbore is 7.00 mm deep');
    expect(held('M8 ↧ 16', hole(6.8, { depth: 20, thread: 'M8' })).agrees).toBe(true);
    expect(held('M8 ↧ 16', hole(6.8, { depth: 20 })).model).toBeNull();
    expect(held('Ø12', hole(9))).toEqual({ model: null, agrees: false, words: 'no such hole in the solid' });
  });
});

const text = (words: string, x: number, y: number, more: Partial<PageText> = {}): PageText => ({
  text: words,
  object: 0,
  kind: kindCode('text'),
  x,
  y,
  height: 8,
  radians: 0,
  layer: -1,
  width: 4.5 * words.length,
  ...more,
});

describe('texts of a sheet', () => {
  it('put notes in several lines together, and keep two notes apart', () => {
    const notes = holeNotes(
      [
        text('4x Ø9 THRU', 100, 200),
        text('⌴ Ø15 ↧ 8', 100, 188),
        text('2x M6 ↧ 12', 300, 200),
        text('Ø5 THRU', 300, 188),
        text('120', 40, 40),
        text('⌴ Ø30 ↧ 2', 100, 20),
      ],
      'mm',
    );
    expect(
      notes.map((n) => [n.callout.count, n.callout.diameter, n.callout.head?.diameter ?? null, n.texts]),
    ).toEqual([
      [4, 9, 15, [0, 1]],
      [2, 5, null, [2]],
      [1, 5, null, [3]],
    ]);
  });

  it('read a table of holes with X and Y, in either unit, rows without a size like the one above', () => {
    const row = (y: number, ...cells: [string, number][]) => cells.map(([t, x]) => text(t, x, y));
    const texts = [
      ...row(300, ['HOLE', 100], ['X', 160], ['Y', 210], ['SIZE', 260]),
      ...row(286, ['A1', 100], ['12.5', 155], ['20', 205], ['Ø6.6 THRU', 255]),
      ...row(272, ['A2', 100], ['87.5', 155], ['20', 205]),
      ...row(258, ['B1', 100], ['50', 155], ['-5,5', 205], ['M8 ↧ 16', 255]),
      ...row(244, ['C1', 100], ['?', 155], ['10', 205], ['Ø4', 255]),
      text('GENERAL TOLERANCES', 100, 100),
    ];
    const [table] = readHoleTables(texts, 'mm');
    expect(
      table.holes.map((h) => [h.tag, h.x, h.y, h.callout.diameter, h.callout.thread?.name ?? null]),
    ).toEqual([
      ['A1', 12.5, 20, 6.6, null],
      ['A2', 87.5, 20, 6.6, null],
      ['B1', 50, -5.5, 6.8, 'M8'],
    ]);
    expect(table.unread).toEqual(['C1  ?  10  Ø4']);
    const inches = readHoleTables(
      [
        ...row(300, ['TAG', 100], ['X LOC', 160], ['Y LOC', 210], ['DIA', 270]),
        ...row(288, ['A', 100], ['.500', 160], ['1.250', 210], ['.281 THRU', 270]),
      ],
      'in',
    )[0];
    expect(inches.holes[0]).toMatchObject({ x: 12.7, y: 31.75 });
    expect(inches.holes[0].callout.diameter).toBeCloseTo(0.281 * 25.4, 9);
    const said = readHoleTables(
      [
        ...row(300, ['NO', 100], ['X (in)', 160], ['Y (in)', 210], ['DESCRIPTION', 270]),
        ...row(288, ['1', 100], ['1', 165], ['2', 215], ['Ø5 mm THRU', 270]),
      ],
      'mm',
    )[0];
    expect(said.holes[0]).toMatchObject({ x: 25.4, y: 50.8 });
    expect(said.holes[0].callout.diameter).toBe(5);
    expect(readHoleTables([text('X', 10, 10), text('Y', 40, 10)], 'mm').flatMap((t) => t.holes)).toEqual([]);
  });

  it('find the zero of a table by the rounds that are drawn, though one is missing and others are there', () => {
    const [table] = readHoleTables(
        [
          ...[
            ['X', 160],
            ['Y', 210],
            ['SIZE', 260],
          ].map(([t, x]) => text(t as string, x as number, 300)),
          ...[
            [10, 10],
            [50, 12],
            [90, 45],
          ].flatMap(([x, y], i) => [
            text(String(x), 160, 288 - 12 * i),
            text(String(y), 210, 288 - 12 * i),
            text('Ø8', 260, 288 - 12 * i),
          ]),
        ],
        'mm',
      ),
      at = (x: number, y: number, radius = 4) => ({ centre: [200 + x, -30 + y] as const, radius });
    const zero = zeroOfTable(table, [at(10, 10.2), at(50, 12), at(70, 70, 20), at(1, 1)])!;
    expect(zero.fits).toBe(2);
    expect(zero.at.map((v) => Math.round(v))).toEqual([200, -30]);
    expect(zeroOfTable(table, [at(70, 70, 20)])).toBeNull();
  });
});

const laid = (placement: Transform, planeId = 'top'): Underlay =>
  ({
    type: 'underlay',
    id: 'u',
    name: 'Sheet',
    fileId: 'f',
    page: 1,
    planeId,
    crop: [0, 0, 900, 800],
    placement: [...placement],
    visible: true,
    scaleState: 'typed',
    order: 0,
  }) as unknown as Underlay;
/** A sheet that draws at 1:1, its zero at (100, 100) points. */
const PT = 72 / 25.4,
  TO_PLANE: Transform = [1 / PT, 0, 0, 1 / PT, -100 / PT, -100 / PT];
const onSheet = ([x, y]: Point): [number, number] => [100 + x * PT, 100 + y * PT];
const dimension = (
  words: string,
  from: Point,
  to: Point,
  more: Partial<PrintedDimension> = {},
): PrintedDimension => {
  const [p, q] = [onSheet(from), onSheet(to)];
  return {
    index: 0,
    text: words,
    kind: 'linear',
    millimetres: Number(words.replace(/[^\d.]/g, '')),
    half: 0.5,
    from: p,
    to: q,
    figure: { x: (p[0] + q[0]) / 2, y: (p[1] + q[1]) / 2, width: 12, height: 6, radians: 0 },
    points: 1,
    factor: 1,
    view: 0,
    agrees: true,
    measured: 0,
    recognised: false,
    ...more,
  };
};
const reading = (dimensions: PrintedDimension[]): PrintedReading => ({
  endsFromInk: false,
  views: [],
  dimensions,
  notes: [],
  chains: [],
  unknown: [],
  photo: null,
  why: null,
});

describe('all that a sheet prints on a solid', () => {
  const seen = [{ plane: plane('top', PLANES.top as never), view: PLATE }],
    holes = [hole(10), hole(10)];
  const held = (
    dimensions: PrintedDimension[],
    texts: PageText[] = [],
    driving: Parameters<typeof heldFigures>[3] = [],
  ) =>
    heldFigures(
      seen,
      [{ underlay: laid(TO_PLANE), texts, reading: reading(dimensions) }],
      holes,
      driving,
      'mm',
    );

  it('takes what stands beside the view, and leaves what stands by another, angles, and what drives', () => {
    const { figures, left } = held(
      [
        dimension('100', [0, -14], [100, -14]),
        dimension('60', [-14, 0], [-14, 60]),
        dimension('25', [0, -20], [20, -20]),
        dimension('75', [0, 140], [75, 140]),
        dimension('30', [150, 0], [190, 30], { kind: 'angle' }),
      ],
      [text('2x Ø10 THRU', 500, 320), text('R7', 450, 320), text('NOTES', 400, 20)],
    );
    expect(figures.map((f) => [f.text, f.agrees, f.model])).toEqual([
      ['100', true, 100],
      ['60', true, 60],
      ['25', false, 20],
      ['R7', false, null],
      ['2x Ø10 THRU', true, 10],
    ]);
    expect(left).toBe(2);
    const d = dimension('100', [0, -14], [100, -14]);
    const without = held([d], [], [{ underlayId: 'u', text: '100', at: [d.figure.x + 6, d.figure.y] }]);
    expect(without.figures).toEqual([]);
  });

  it('reads a page that is laid on two planes once, each figure by the view that it stands beside', () => {
    const far: Transform = [1 / PT, 0, 0, 1 / PT, -100 / PT, -100 / PT - 150],
      front = {
        plane: plane('front', PLANES.front as never),
        view: {
          visible: ring([
            [0, 0],
            [100, 0],
            [100, 8],
            [0, 8],
          ]),
          hidden: [],
        },
      };
    const page = reading([dimension('60', [-14, 0], [-14, 60]), dimension('8', [-14, 150], [-14, 158])]),
      { figures } = heldFigures(
        [...seen, front],
        [
          { underlay: laid(TO_PLANE), texts: [], reading: page },
          { underlay: { ...laid(far, 'front'), id: 'v' }, texts: [], reading: page },
        ],
        holes,
        [],
        'mm',
      );
    expect(figures.map((f) => [f.text, f.planeId, f.agrees])).toEqual([
      ['60', 'top', true],
      ['8', 'front', true],
    ]);
  });
});

describe('a solid over the ink of its sheet', () => {
  /** The plate's own lines as a sheet has them, less its right side, with a line too many and an axis. */
  const page = () => {
    const l = emptyLinework(600, 400),
      lines: [Point, Point, string][] = [
        [[0, 0], [100, 0], 'line'],
        [[100, 60], [0, 60], 'line'],
        [[0, 60], [0, 0], 'line'],
        [[50, 0], [50, 60], 'line'],
        [[30, 10], [30, 50], 'line'],
        [[10, 20], [30, 20], 'line'],
        [[100, 0], [100, 60], 'hatch'],
        [[0, -14], [100, -14], 'dimension'],
      ];
    l.segments = Float64Array.from(lines.flatMap(([p, q]) => [...onSheet(p), ...onSheet(q)]));
    l.segmentStyle = new Int32Array(2 * lines.length).fill(-1);
    l.segmentKind = Uint8Array.from(lines.map(([, , k]) => kindCode(k as 'line')));
    l.circles = Float64Array.from([...onSheet([20, 20]), 5 * PT, ...onSheet([80, 40]), 5 * PT]);
    l.circleStyle = new Int32Array(4).fill(-1);
    l.circleKind = new Uint8Array(2).fill(kindCode('curve'));
    return l;
  };

  it('tells what both have, what the solid alone has and what the sheet alone has', () => {
    const ink = inkOn(laid(TO_PLANE), page(), [-20, -20, 120, 80]),
      { on, off, share, only } = heldOnInk(PLATE, ink, 0.35);
    const around = 2 * (100 + 60) + 2 * 2 * Math.PI * 5;
    expect(share).toBeCloseTo((around - 60) / around, 2);
    expect(off).toHaveLength(1);
    expect(off[0].every(([x]) => Math.abs(x - 100) < 1e-9)).toBe(true);
    expect(on.length).toBeGreaterThan(3);
    // The line of 40 that no edge has; not the axis of a hole, nor the dimension.
    expect(only.map(([p, q]) => [...p, ...q].map(Math.round))).toEqual([[30, 10, 30, 50]]);
  });

  it('is all on the sheet only where it is within what counts as the same', () => {
    const shift = (by: number): Transform => [1 / PT, 0, 0, 1 / PT, -100 / PT + by, -100 / PT];
    const near = heldOnInk(PLATE, inkOn(laid(shift(0.2)), page(), [-20, -20, 120, 80]), 0.35),
      far = heldOnInk(PLATE, inkOn(laid(shift(0.6)), page(), [-20, -20, 120, 80]), 0.35);
    expect(near.share).toBeGreaterThan(0.8);
    expect(far.share).toBeLessThan(0.75);
    expect(heldOnInk(PLATE, { lines: new Float64Array(0), drawn: new Uint8Array(0) }, 0.35).share).toBe(0);
  });
});

/** A drawn plate whose right side stands 0.4 too far left, with a circle. */
function sketch(): PartDraft {
  const d = new PartDraft();
  d.line('top', [0, 0], [99.6, 0]);
  d.line('top', [99.6, 0], [99.6, 60]);
  d.line('top', [99.6, 60], [0, 60]);
  d.line('top', [0, 60], [0, 0]);
  d.arc('top', [20, 20], 5);
  return d;
}
const ruled = () => {
  const draft = sketch(),
    model = modelOf(draft.entities);
  let n = 0;
  // Drawn on a plane of a part they find their rules.
  const bare = modelOf(draft.entities.filter((e) => e.type !== 'line' && e.type !== 'arc')),
    adds = [...model.values()]
      .filter((e) => e.type === 'line' || e.type === 'arc')
      .map((entity): Change => ({ type: 'add', entity }));
  return applyOrThrow(
    bare,
    settled(bare, { type: 'group', changes: adds }, () => `r${++n}`),
  );
};

describe('figures that could drive', () => {
  it('are offered for what is drawn where they point, each once, and drive it when they are taken', () => {
    const model = ruled(),
      sheets = [
        {
          underlay: laid(TO_PLANE),
          reading: reading([
            dimension('100', [0, -14], [99.6, -14]),
            dimension('60', [-14, 0], [-14, 60]),
            dimension('20', [0, -20], [20, -20]),
            dimension('80', [20, -20], [99.6, -20]),
            dimension('Ø10', [15, 20], [25, 20], { kind: 'diameter', millimetres: 10 }),
            dimension('45', [0, 200], [45, 200]),
          ]),
        },
      ];
    const offers = offeredFigures(model, 'top', sheets, 'mm');
    // The fourth follows from the first and the third: it would say nothing of its own.
    expect(offers.map((o) => [o.printed.text, o.kind, Number(o.drawn.toFixed(6))])).toEqual([
      ['100', 'across', 99.6],
      ['60', 'up', 60],
      ['20', 'across', 20],
      ['Ø10', 'diameter', 10],
    ]);
    const taken = applyOrThrow(
      model,
      settled(model, {
        type: 'group',
        changes: offers.map((o, i): Change => ({
          type: 'add',
          entity: {
            type: 'rule',
            id: `d${i}`,
            planeId: 'top',
            kind: o.kind,
            of: o.of,
            value: o.value,
            tolerance: o.tolerance,
            printed: o.printed,
          },
        })),
      }),
    );
    const lines = ofType(taken, 'line');
    expect(
      Math.max(...lines.flatMap((l) => [l.from[0], l.to[0]])) -
        Math.min(...lines.flatMap((l) => [l.from[0], l.to[0]])),
    ).toBeCloseTo(100, 9);
    expect(planeState(taken, 'top').contradictory).toEqual([]);
    expect(offeredFigures(taken, 'top', sheets, 'mm')).toEqual([]);
  });
});

describe('views of a part', () => {
  it('have the places of what is drawn on the others along the axes that both have', () => {
    const d = sketch();
    d.entities.push(plane('away', { ...PLANES.front, origin: [10, 0, 5] } as never));
    const model = modelOf(d.entities),
      front = commonEdges(model, 'front'),
      side = commonEdges(model, 'side'),
      at = (list: typeof front, axis: 'x' | 'y') =>
        list.filter((e) => e.axis === axis).map((e) => Number(e.at.toFixed(6)));
    // Of the top the front has x, the side y along its own x; neither knows its heights.
    expect(at(front, 'x')).toEqual([0, 15, 20, 25, 99.6]);
    expect(at(front, 'y')).toEqual([]);
    expect(at(side, 'x')).toEqual([0, 15, 20, 25, 60]);
    // A plane whose zero lies elsewhere counts from there.
    expect(at(commonEdges(model, 'away'), 'x')).toEqual([-10, 5, 10, 15, 89.6]);
    expect(commonEdges(model, 'nowhere')).toEqual([]);
  });
});

describe('what is not fixed', () => {
  it('is shown as it can move, one way after the other, with all rules kept', () => {
    const model = ruled(),
      { freedom } = planeState(model, 'top'),
      ways = waysToMove(model, 'top');
    // The circle, which no rule names, moves in three ways of its own.
    expect(ways).toHaveLength(freedom - 3);
    for (const moved of ways) {
      expect(moved.length).toBeGreaterThan(0);
      for (const e of moved)
        if (e.type === 'line') {
          const [dx, dy] = [e.to[0] - e.from[0], e.to[1] - e.from[1]];
          // Level and upright they stay.
          expect(Math.min(Math.abs(dx), Math.abs(dy))).toBeLessThan(1e-6);
        }
    }
    const fixed = modelOf([]);
    expect(waysToMove(fixed, 'top')).toEqual([]);
  });
});

describe('a length as it is', () => {
  it('is said with as many decimals as it takes, and in the own style where that says it', () => {
    const said = (mm: number, units: 'mm' | 'in' | 'ft-in', precision: number) =>
      formatLength(mm, exactStyle(mm, { units, precision }));
    expect([said(8, 'mm', 0), said(8.5, 'mm', 0), said(149.62, 'mm', 0), said(0.35, 'mm', 1)]).toEqual([
      '8',
      '8.5',
      '149.62',
      '0.35',
    ]);
    expect(said(1 / 3, 'mm', 0)).toBe('0.333');
    expect([said(19.05, 'in', 2), said(7.1374, 'in', 2)]).toEqual(['0.75', '0.281']);
    expect(said(304.8 + 12.7, 'ft-in', 1)).toBe('1′-0 1/2″');
    expect(said(7.1374, 'ft-in', 16)).toBe('0.281');
  });
});
