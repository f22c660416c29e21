import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Line4, Transform } from '@calque/core/geometry';
import {
  elementsGraded,
  figuresOf,
  gradeTables,
  gradeTrace,
  gradeWords,
  linesOfTrace,
  LinesBeside,
  nearestAlong,
  parts,
  percent,
} from '@calque/core/grade';
import { applyOrThrow, groundStorey, modelOf, type Model, type Wall } from '@calque/core/model';
import { proposalsOn, wallTaken } from '@calque/core/proposals';
import { HOUSE, K, MIDDLE, sheet, type Line } from './given-seen.ts';
import { wall as plainWall } from './given-walls.ts';

const at = (line: Line4, t: number): [number, number] => {
  const n = Math.hypot(line[2] - line[0], line[3] - line[1]);
  return [line[0] + (t / n) * (line[2] - line[0]), line[1] + (t / n) * (line[3] - line[1])];
};

/** How far a line lies at one place from others that run beside it, by looking at each: square to it. */
function byLooking(line: Line4, t: number, others: readonly Line4[], reach: number): number | null {
  const n = Math.hypot(line[2] - line[0], line[3] - line[1]),
    [ux, uy] = [(line[2] - line[0]) / n, (line[3] - line[1]) / n],
    [x, y] = at(line, t);
  let best: number | null = null;
  for (const [px, py, qx, qy] of others) {
    const long = Math.hypot(qx - px, qy - py);
    if (long === 0 || Math.abs(ux * (qy - py) - uy * (qx - px)) > 0.2 * long) continue;
    // Where the square through the place meets the other line.
    const a = (px - x) * ux + (py - y) * uy,
      b = (qx - x) * ux + (qy - y) * uy;
    if (a * b > 0) continue;
    const s = a / (a - b),
      off = Math.abs((px + s * (qx - px) - x) * -uy + (py + s * (qy - py) - y) * ux);
    if (off <= reach && (best === null || off < best)) best = off;
  }
  return best;
}

describe('how far a line lies from others', () => {
  const beside = (lines: readonly Line4[]) => new LinesBeside(Float64Array.from(lines.flat()));

  it('is told in stretches that change evenly, and where nothing lies beside it', () => {
    const line: Line4 = [0, 0, 1000, 0],
      found = nearestAlong(
        line,
        beside([
          [100, 3, 500, 3],
          // Askew from 5 below to 5 above.
          [400, -5, 800, 5],
          // Too far, and across.
          [0, 80, 1000, 80],
          [900, -40, 900, 40],
        ]),
        50,
      );
    expect(found[0]).toEqual({ from: 0, to: 100, near: null });
    expect(found[1].near![0]).toBeCloseTo(3, 9);
    expect(found.at(-1)).toEqual({ from: 800, to: 1000, near: null });
    // The askew one comes nearer than 3 at 480, is nothing at 600, and ends at 5.
    const ends = found.map((s) => s.to);
    for (const [i, v] of [100, 480, 600, 800, 1000].entries()) expect(ends[i]).toBeCloseTo(v, 6);
    expect(found[2].near).toEqual([expect.closeTo(3, 6), expect.closeTo(0, 6)]);
    expect(found[3].near).toEqual([expect.closeTo(0, 6), expect.closeTo(5, 6)]);
  });

  it('is what looking at each of them tells, at every place, for any lines', () => {
    const number = fc.double({ min: -300, max: 300, noNaN: true }),
      anyLine = fc
        .tuple(
          fc.double({ min: 0, max: 900, noNaN: true }),
          number,
          fc.double({ min: 1, max: 700, noNaN: true }),
          fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        )
        .map(([x, y, long, turn]): Line4 => [
          x,
          y / 6,
          x + long * Math.cos(turn),
          y / 6 + long * Math.sin(turn),
        ]);
    fc.assert(
      fc.property(
        fc.array(anyLine, { maxLength: 25 }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (others, angle) => {
          const [c, s] = [Math.cos(angle), Math.sin(angle)],
            turned = ([a, b, d, e]: Line4): Line4 => [
              a * c - b * s,
              a * s + b * c,
              d * c - e * s,
              d * s + e * c,
            ],
            line = turned([0, 0, 1000, 0]),
            all = others.map(turned),
            found = nearestAlong(line, beside(all), 50);
          // They follow one another from end to end.
          expect(found[0].from).toBeCloseTo(0, 8);
          expect(found.at(-1)!.to).toBeCloseTo(1000, 6);
          for (let i = 1; i < found.length; i++) expect(found[i].from).toBeCloseTo(found[i - 1].to, 8);
          for (const { from, to, near } of found) {
            if (to - from < 1e-3) continue;
            for (const share of [0.13, 0.5, 0.91]) {
              const known = byLooking(line, from + share * (to - from), all, 50);
              if (near === null) expect(known === null || known > 50 - 1e-4).toBe(true);
              else expect(near[0] + share * (near[1] - near[0])).toBeCloseTo(known ?? 50, 5);
            }
          }
        },
      ),
      { numRuns: 150 },
    );
  });

  it('is parted at its limits, each part of one size, together as long as the whole', () => {
    expect(parts({ from: 0, to: 100, near: [0, 10] }, [2, 5])).toEqual([
      { from: 0, to: 20, size: 0 },
      { from: 20, to: 50, size: 1 },
      { from: 50, to: 100, size: 2 },
    ]);
    expect(parts({ from: 0, to: 100, near: [10, 0] }, [2, 5]).map((p) => [p.to, p.size])).toEqual([
      [50, 2],
      [80, 1],
      [100, 0],
    ]);
    expect(parts({ from: 3, to: 9, near: null }, [2])).toEqual([{ from: 3, to: 9, size: -1 }]);
    // What lies at the limit is within.
    expect(parts({ from: 0, to: 1, near: [2, 2] }, [2])).toEqual([{ from: 0, to: 1, size: 0 }]);
  });
});

const MM = 1 / K;
/** Sheet points to the house's own millimetres: 200 points are its origin. */
const PLACEMENT: Transform = [MM, 0, 0, MM, -200 * MM, -200 * MM];
const HOUSE_SHEET = sheet(HOUSE),
  SEEN = proposalsOn(HOUSE_SHEET, 100);
const isAny = () => true;

const modelWith = (walls: readonly Wall[]): Model =>
  walls.reduce((m, entity) => applyOrThrow(m, { type: 'add', entity }), modelOf([groundStorey('ground')]));

/** The house as it is drawn, its inner wall off by so much. */
const traced = (off = 0): Model =>
  modelWith(
    SEEN.walls.map((w, i): Wall => {
      const openings = SEEN.openings.filter((o) => o.wall === i),
        taken = wallTaken(w, openings, PLACEMENT, { height: 2700, heightAssumed: true }) as Wall,
        by = Math.abs(w.thickness - 100) < 5 ? off : 0;
      return {
        ...plainWall(`w${i}`, [0, 0], [1, 0]),
        ...taken,
        planeId: 'ground',
        from: [taken.from[0] + by, taken.from[1]],
        to: [taken.to[0] + by, taken.to[1]],
      };
    }),
  );
const gradeOf = (model: Model, of = HOUSE_SHEET, seen = SEEN) =>
  gradeTrace({
    trace: linesOfTrace(model, 'ground', isAny),
    sheet: of,
    placement: PLACEMENT,
    seen,
  });
const STYLE = { units: 'mm', precision: 0 } as never;

describe('a graded trace', () => {
  it('of a house that is traced as it is drawn lies on its ink, all of it, and leaves nothing', () => {
    const grade = gradeOf(traced()),
      own = figuresOf(grade.traced, 1);
    expect(own.worst).toBeLessThan(0.5);
    expect(own.free / own.length).toBeLessThan(0.01);
    expect(percent(own.within, own.length)).toBeGreaterThan(98);
    expect(grade.untraced).toEqual([]);
    const faces = figuresOf(grade.faces, 1);
    // Faces of both sides of five walls without their openings and what others take of them.
    const all = MIDDLE.reduce((sum, [p, q]) => sum + 2 * Math.hypot(q[0] - p[0], q[1] - p[1]), 0);
    expect(faces.length).toBeGreaterThan(all - 2 * 1900 - 3000);
    expect(faces.length).toBeLessThan(all);
    expect(faces.within / faces.length).toBeGreaterThan(0.99);
  });

  it('tells which wall strays, by how much and where, and what share is within', () => {
    const grade = gradeOf(traced(7)),
      [worst, ...rest] = elementsGraded(grade, 2),
      inner = SEEN.walls.findIndex((w) => Math.abs(w.thickness - 100) < 5);
    expect(worst.id).toBe(`w${inner}`);
    expect(worst.worst).toBeCloseTo(7, 3);
    expect(worst.mean).toBeGreaterThan(6);
    expect(Math.abs(worst.at![0] - 5000)).toBeLessThan(60);
    for (const e of rest) expect(e.worst ?? 0).toBeLessThan(1);
    const said = gradeWords(grade, 2, STYLE, isAny);
    expect(said).toMatch(/one wall strays by more than 5/);
    // Two faces of 7.7 m less a door of 0.9 m are off; the rest of the house is not.
    const faces = figuresOf(grade.faces, 2);
    expect((faces.length - faces.within) / 2).toBeGreaterThan(6700);
    expect((faces.length - faces.within) / 2).toBeLessThan(6900);
    // Within 10 mm all is within.
    expect(figuresOf(grade.faces, 10).within).toBeCloseTo(faces.length, 0);
  });

  it('tells what the sheet has and the trace has not, and the other way round', () => {
    const whole = traced(),
      inner = SEEN.walls.findIndex((w) => Math.abs(w.thickness - 100) < 5),
      without = applyOrThrow(whole, { type: 'remove', entity: whole.get(`w${inner}`)! }),
      missing = gradeOf(without).untraced;
    expect(missing).toHaveLength(1);
    expect(missing[0].thickness).toBeCloseTo(100, 0);
    expect(missing[0].free).toBeGreaterThan(13000);
    // A wall that the sheet does not show: nothing lies beside it.
    const more = applyOrThrow(whole, {
        type: 'add',
        entity: {
          ...plainWall('extra', [7000, 3000], [7000, 5000]),
          planeId: 'ground',
          thickness: 150,
        },
      }),
      extra = elementsGraded(gradeOf(more), 2).find((e) => e.id === 'extra')!;
    expect(extra.worst).toBeNull();
    expect(extra.free).toBeCloseTo(extra.length, 6);
  });

  it('does not miss a wall that was traced from another sheet, nor grade it here', () => {
    const inner = `w${SEEN.walls.findIndex((w) => Math.abs(w.thickness - 100) < 5)}`,
      grade = gradeTrace({
        trace: linesOfTrace(traced(7), 'ground', (e) => e.id !== inner),
        sheet: HOUSE_SHEET,
        placement: PLACEMENT,
        seen: SEEN,
      });
    expect(grade.untraced).toEqual([]);
    expect(grade.traced.some((t) => t.element === inner)).toBe(false);
    expect(elementsGraded(grade, 2)[0].worst).toBeLessThan(1);
  });

  it('does not hold against a wall what of it lies within others of the sheet that nobody has traced yet', () => {
    const inner = traced().get(`w${SEEN.walls.findIndex((w) => Math.abs(w.thickness - 100) < 5)}`) as Wall,
      [alone] = elementsGraded(gradeOf(modelWith([inner])), 2);
    expect(alone.worst).toBeLessThan(0.5);
    expect(alone.free).toBeLessThan(1);
    // One that ends freely, too far: that end is told.
    const short = {
        ...inner,
        to: [inner.to[0], inner.to[1] + Math.sign(inner.from[1] - inner.to[1]) * 2000],
      } as Wall,
      [ends] = elementsGraded(gradeOf(modelWith([short])), 2);
    expect(ends.free).toBeGreaterThan(90);
  });

  it('is reported in tables: what it says, each element with where it is worst, what is not traced', () => {
    const model = traced(7),
      grade = gradeOf(model),
      [said, elements, missing] = gradeTables({ grade, tolerance: 2, model, sheet: 'Ground', style: STYLE });
    expect(said.rows[0].cells[0]).toBe(`Ground: ${gradeWords(grade, 2, STYLE, isAny)}`);
    for (const table of [said, elements, missing])
      for (const row of table.rows) expect(row.cells).toHaveLength(table.columns.length);
    expect(elements.rows).toHaveLength(SEEN.walls.length);
    const [worst] = elements.rows;
    expect(worst.cells[0]).toMatch(/^wall, 8.000/);
    expect(worst.cells[4]).toBeCloseTo(7, 3);
    expect(worst.ids).toEqual([elementsGraded(grade, 2)[0].id]);
    expect(missing.rows).toEqual([]);
    const none = gradeTables({
      grade: gradeOf(modelWith([])),
      tolerance: 2,
      model,
      sheet: 'Ground',
      style: STYLE,
    });
    expect(none[2].rows).toHaveLength(SEEN.walls.length);
    expect(none[0].rows[5].cells.slice(1, 4)).toEqual([expect.any(Number), 0, 0]);
  });

  it('says nothing better than it is: never 100 % of less than all', () => {
    expect(percent(0, 0)).toBe(0);
    expect(percent(9999, 10000)).toBe(99);
    expect(percent(10000, 10000)).toBe(100);
    expect(percent(1, 10000)).toBe(1);
    expect(percent(0, 10000)).toBe(0);
    // Nothing traced: no share of the sheet is.
    const grade = gradeOf(modelWith([]));
    expect(grade.traced).toEqual([]);
    expect(figuresOf(grade.faces, 5).within).toBe(0);
    expect(gradeWords(grade, 5, STYLE, isAny)).toMatch(/^0 % of the sheet's wall faces/);
    expect(grade.untraced.length).toBe(SEEN.walls.length);
    // Nothing drawn: no wall is seen, and what is traced lies on nothing.
    const blank = sheet([{ pen: 0, lines: [] as Line[] }]),
      none = gradeOf(traced(), blank, { ...SEEN, walls: [], openings: [] });
    expect(figuresOf(none.traced, 5)).toMatchObject({ mean: null, worst: null, within: 0 });
    expect(gradeWords(none, 5, STYLE, isAny)).toMatch(/No wall is seen/);
  });

  it('closes what is drawn in pieces and dashes, and not what is open', () => {
    const dashes = (gap: number): Line[] =>
      Array.from({ length: 40 }, (_, i): Line => [
        [i * (300 + gap), 0],
        [i * (300 + gap) + 300, 0],
      ]);
    const line = { ...plainWall('x', [0, 0], [5800, 0]), planeId: 'ground' };
    const of = (gap: number) =>
      figuresOf(
        gradeTrace({
          trace: {
            lines: Float64Array.from([...line.from, ...line.to]),
            of: new Int32Array(1),
            ways: new Uint8Array(1),
            elements: ['x'],
            others: new Float64Array(),
            isCut: false,
          },
          sheet: sheet([{ pen: 0, lines: dashes(gap) }]),
          placement: PLACEMENT,
          seen: { walls: [], openings: [] },
        }).traced,
        1,
      );
    expect(of(80).free).toBe(0);
    expect(of(250).free).toBe(0);
    expect(of(900).free).toBeGreaterThan(3000);
  });
});
