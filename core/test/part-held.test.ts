import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PrintedDimension } from '@calque/core/calibration';
import { arcPiece, segmentPiece, type Piece, type Point, type Transform } from '@calque/core/geometry';
import { emptyLinework, kindCode, type PageText } from '@calque/core/linework';
import {
  heldFigures,
  heldNotes,
  heldOnInk,
  inkOn,
  isAsPrinted,
  measuredOn,
  readCallout,
  type SolidHole,
  type SolidView,
  type StandingFigure,
} from '@calque/core/part';
import { plane, PLANES } from './part-model.ts';
import { text, laid, PT, TO_PLANE, dimension, reading, onSheet } from './part-sheet-model.ts';

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
