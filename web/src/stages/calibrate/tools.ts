import {
  calibrateByLength, levellingTurn, measuredLength, movePointTo, turnPlacement,
} from '@calque/core/calibration';
import { applyTransform, invertTransform, type Point } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import { formatLengthWithUnit, parseLength } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';
import { PicksTool } from '@/table/tools/picks-tool';
import { currentUnderlay, place, tracedOn } from './place';
import { useCalibrateState } from './state';

const onSheet = (u: Underlay, p: Pick): [number, number] => applyTransform(invertTransform(u.placement), p.plane);
const style = (table: Table) => lengthStyle(table.session.state.model);

function typedLength(table: Table, text: string): { mm: number } | string {
  const parsed = parseLength(text, style(table).units);
  if (parsed.ok && parsed.mm > 0) return { mm: parsed.mm };
  if (parsed.ok) return 'A length must be more than nothing.';
  return parsed.reason === 'empty' ? 'Type the true length, such as 5250, 5.25 m or 11\'-4".' : `"${text}" is not a length. Type it as 5250, 5.25 m, 11'-4", 3' 6 1/2" or 136 in.`;
}

/** Two picks, the true length, and the sheet is scaled about the first pick. */
export function takeCalibrateTool(table: Table): void {
  const u = currentUnderlay(table);
  if (!u) return;
  const measure = (a: Pick, b: Pick) => Math.hypot(b.plane[0] - a.plane[0], b.plane[1] - a.plane[1]);
  table.take(new PicksTool({
    id: 'calibrate', onlyUnderlay: u.id,
    steps: ['Pick one end of a dimension that you know; the longest gives the best scale', 'Pick its other end · Shift holds the axis'],
    measure: (a, b) => `sheet says ${formatLengthWithUnit(measure(a, b), style(table))}`,
    ask: ([a, b]) => ({ required: true, fields: [{ id: 'true', label: 'true length', unit: 'length', live: '' }], hint: `The sheet says ${formatLengthWithUnit(measure(a, b), style(table))} now. Enter scales it${tracedWords(table, u)}.` }),
    submit: ([a, b], values) => {
      const typed = typedLength(table, values.true ?? '');
      if (typeof typed === 'string') return typed;
      const result = calibrateByLength(u.placement, onSheet(u, a), onSheet(u, b), typed.mm);
      return result.ok ? submitCalibration(table, u, a, b, typed.mm, values.true) : 'The two picks lie on one another: pick them again, far apart.';
    },
    done: () => table.layDown(),
  }));
}

/** What happens to the elements traced on the sheet, said before it happens. */
function tracedWords(table: Table, u: Underlay): string {
  const n = tracedOn(table, u.id).length;
  if (n === 0) return '';
  const things = n === 1 ? 'the element' : `the ${n} elements`;
  return useCalibrateState.getState().carry ? `, and ${things} traced on it go along` : `; ${things} traced on it stay where they are`;
}

function submitCalibration(table: Table, u: Underlay, a: Pick, b: Pick, mm: number, typed: string): null {
  const from = onSheet(u, a), to = onSheet(u, b);
  const result = calibrateByLength(u.placement, from, to, mm);
  if (result.ok) {
    place(table, u, result.placement, {
      scaleState: 'calibrated', calibration: { from, to, trueLength: mm, oldLength: result.oldLength, factor: result.factor, typed: typed.trim() },
    }, `Calibrate ${u.name}`);
  }
  return null;
}

/** A further known dimension, held against the sheet. */
export function takeCheckTool(table: Table): void {
  const { model } = table.session.state;
  const u = model.get(table.state.getState().underlayId ?? '');
  if (u?.type !== 'underlay') {
    table.session.tell('Choose a sheet in the stack first.', true);
    return;
  }
  const sheetLength = (a: Pick, b: Pick) => formatLengthWithUnit(measuredLength(u.placement, onSheet(u, a), onSheet(u, b)), style(table));
  table.take(new PicksTool({
    id: 'known', onlyUnderlay: u.id, steps: ['Known dimension: pick one end', 'Pick its other end · Shift holds the axis'],
    measure: (a, b) => `measures ${sheetLength(a, b)}`,
    ask: ([a, b]) => ({ required: true, fields: [{ id: 'printed', label: 'printed', unit: 'length', live: '' }], hint: `It measures ${sheetLength(a, b)}. Type what is printed.` }),
    submit: ([a, b], values) => {
      const typed = typedLength(table, values.printed ?? '');
      if (typeof typed === 'string') return typed;
      const from = onSheet(u, a), to = onSheet(u, b);
      if (Math.hypot(to[0] - from[0], to[1] - from[1]) < 0.05) return 'The two picks lie on one another: pick them again.';
      table.session.do({ type: 'add', entity: { type: 'check', id: crypto.randomUUID(), underlayId: u.id, from, to, printed: typed.mm, typed: (values.printed ?? '').trim() } }, 'Enter a known dimension');
      return null;
    },
    done: () => {},
  }));
}

/** One pick on an edge, or two along it, and the sheet is turned so that the edge is level or upright. */
export function takeLevelTool(table: Table): void {
  const u = currentUnderlay(table);
  if (!u) return;
  const turn = (p: Point, q: Point) => {
    const inverse = invertTransform(u.placement);
    const radians = levellingTurn(u.placement, applyTransform(inverse, p), applyTransform(inverse, q), 'nearest');
    place(table, u, turnPlacement(u.placement, radians, p), {}, `Level ${u.name}`);
    table.layDown();
  };
  table.take(new PicksTool({
    id: 'level', onlyUnderlay: u.id, steps: ['Click an edge that ought to be level or upright (on a scan: pick two points along it)', 'Pick a second point along the edge'],
    first: (pick) => {
      const edge = pick.found?.kind === 'along' || pick.found?.kind === 'middle' ? pick.found.lit.find((l) => l.length === 2) : undefined;
      if (edge) turn(edge[0], edge[1]);
      return edge !== undefined;
    },
    done: ([a, b]) => turn(a.plane, b.plane),
  }));
}

/** One pick, and that point of the sheet lies on the origin. */
export function takeOriginTool(table: Table): void {
  const u = currentUnderlay(table);
  if (!u) return;
  table.take(new PicksTool({
    id: 'origin', onlyUnderlay: u.id, steps: ['Pick the point of the sheet that is to lie on the origin'],
    done: ([p]) => {
      place(table, u, movePointTo(u.placement, onSheet(u, p), [0, 0]), {}, `Put a point of ${u.name} on the origin`);
      table.layDown();
    },
  }));
}

/** Turns the current sheet about the middle of what is laid. */
export function turnCurrent(table: Table, radians: number): void {
  const u = currentUnderlay(table);
  if (!u) return;
  const middle = applyTransform(u.placement, [(u.crop[0] + u.crop[2]) / 2, (u.crop[1] + u.crop[3]) / 2]);
  place(table, u, turnPlacement(u.placement, radians, middle), {}, `Turn ${u.name}`);
}
