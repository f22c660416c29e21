import {
  levellingTurn,
  measuredLength,
  movePointTo,
  pickSigma,
  turnPlacement,
  type UsualSize,
} from '@calque/core/calibration';
import { applyTransform, invertTransform, meanScale, type Point } from '@calque/core/geometry';
import { get, type Check, type Underlay } from '@calque/core/model';
import { formatLengthWithUnit, formatNumber, parseLength } from '@calque/core/units';
import { isFitted, knownOn, spreadOf, statedShare } from '@/project/known';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import type { FieldRequest, Pick } from '@/table/tool';
import { PicksTool } from '@/table/tools/picks-tool';
import { contradictionWords, doubtIn, speaksAgainst, takeWitness, takeWords } from './evidence';
import { isWild, placedBy, refit, wantedOf } from './fit';
import { currentUnderlay, middleOf, place, tracedOn } from './place';
import { onUnderlay, printedOf, usePrinted } from '@/drawing/printed';
import { dimensionAt, pickAt, printedEnds, type PointedDimension } from './printed-picks';
import { useCalibrateState } from './state';

const onSheet = (u: Underlay, p: Pick): [number, number] =>
  applyTransform(invertTransform(u.placement), p.plane);
const style = (table: Table) => lengthStyle(table.session.state.model);

export function typedLength(table: Table, text: string): { mm: number } | string {
  const parsed = parseLength(text, style(table).units);
  if (parsed.ok && parsed.mm > 0) return { mm: parsed.mm };
  if (parsed.ok) return 'A length must be more than nothing.';
  return parsed.reason === 'empty'
    ? 'Type the true length, such as 5250, 5.25 m or 11\'-4".'
    : `"${text}" is not a length. Type it as 5250, 5.25 m, 11'-4", 3' 6 1/2" or 136 in.`;
}

/** Along a line only the place across it is known. */
const LOOSE: readonly string[] = ['along'];

/** How well a pick is known on the sheet, standard deviation, sheet points: by its zoom, and by what else lay under the cursor. `along`: where only that direction counts. */
export function sigmaOfPick(table: Table, u: Underlay, p: Pick, along?: readonly [number, number]): number {
  const inverse = invertTransform(u.placement),
    sure = (f: { kind: string } | null): boolean => f !== null && !LOOSE.includes(f.kind);
  return pickSigma({
    cursor: applyTransform(inverse, p.bare),
    taken: sure(p.found) ? onSheet(u, p) : null, // The end of a printed dimension could only be meant for another such end.
    others: (p.others ?? [])
      .filter((f) => sure(f) && (p.found?.named === undefined || f.named !== undefined))
      .map((f) => applyTransform(inverse, f.plane)),
    perPixel: 1 / (table.view.scale * meanScale(u.placement)),
    along: along && [along[0], along[1]],
  });
}

/** The known dimension that two picks and a figure make. */
function knownBy(
  table: Table,
  u: Underlay,
  [a, b]: readonly Pick[],
  mm: number,
  typed: string,
  use: 'fit' | 'check',
): Check {
  const from = onSheet(u, a),
    to = onSheet(u, b),
    length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const along = length > 0 ? ([(to[0] - from[0]) / length, (to[1] - from[1]) / length] as const) : undefined;
  return {
    type: 'check',
    id: crypto.randomUUID(),
    underlayId: u.id,
    from,
    to,
    printed: mm,
    typed: typed.trim(),
    use,
    sigma: [sigmaOfPick(table, u, a, along), sigmaOfPick(table, u, b, along)],
    spread: spreadOf(typed, mm),
    origin: 'picked',
  };
}

/** Nearer than this on the paper, two picks are one point. */
const TOGETHER = 0.05;
const TOGETHER_WORDS = 'The two picks lie on one another: pick them again, far apart.';
/** Two picks on one place are refused at the second. */
const picksApart = (table: Table, u: Underlay) => ({
  apart: (a: Pick, b: Pick) => {
    const p = onSheet(u, a),
      q = onSheet(u, b);
    return Math.hypot(q[0] - p[0], q[1] - p[1]) < TOGETHER
      ? 'This is where the first pick lies: pick the other end, far from it.'
      : null;
  },
  refused: (words: string) => table.session.tell(words, true),
});
const apart = (c: Check) => Math.hypot(c.to[0] - c.from[0], c.to[1] - c.from[1]) >= TOGETHER;

/** Shorter than this share of the sheet, a reference alone gives a scale that drifts. */
const SHORT_SHARE = 0.12;

/** Pointing at a printed dimension as a whole: by its figure or its line. What was pointed at last is kept, to be confirmed or corrected. */
class PointedAt {
  dimension: PointedDimension | null = null;
  constructor(
    private readonly table: Table,
    private readonly current: () => Underlay,
  ) {}

  /** For the plan of a picks tool. */
  readonly plan = {
    named: () => printedEnds(this.current()),
    whole: (pick: Pick) => {
      const u = this.current();
      this.dimension = dimensionAt(this.table, u, pick);
      if (!this.dimension) return null;
      const { from, to, text } = this.dimension;
      return {
        picks: [pickAt(this.table, u, from, [[from, to]]), pickAt(this.table, u, to, [[from, to]])] as const,
        words: `${text}: click takes it whole`,
      };
    },
  };

  /** The dimension whose two ends are picked; null once others are. */
  of([a, b]: readonly Pick[]): PointedDimension | null {
    const d = this.dimension,
      u = this.current();
    if (!d || !a || !b) return null;
    const [p, q] = [onSheet(u, a), onSheet(u, b)],
      near = (m: readonly number[], n: readonly number[]) => Math.hypot(m[0] - n[0], m[1] - n[1]) < TOGETHER;
    return near(p, d.from) && near(q, d.to) ? d : null;
  }

  /** What is printed, as the field shows it: nothing where its unit must be asked. */
  printed(picks: readonly Pick[]): string {
    const d = this.of(picks);
    return d?.unitKnown ? formatLengthWithUnit(d.millimetres, style(this.table)) : '';
  }

  /** What is printed where the picks are, in words, and what the others make of it where they differ; empty where nothing is. */
  words(picks: readonly Pick[]): string {
    const d = this.of(picks);
    if (!d) return '';
    if (!d.unitKnown) return `${d.text} is printed there, but not in what unit: type it with its unit. `;
    return `${d.text} is printed there${d.agrees ? '' : `, where the other figures make it ${formatLengthWithUnit(d.measured, style(this.table))}`}. Enter takes it; if that is wrong, type what it is. `;
  }

  /** The known dimension that picks and a figure make; where nothing was typed, what is printed. */
  known(picks: readonly Pick[], typed: string, use: 'fit' | 'check'): Check | string {
    const d = this.of(picks),
      u = this.current();
    if (d?.unitKnown && typed.trim() === '') {
      return {
        ...knownBy(this.table, u, picks, d.millimetres, d.text, use),
        sigma: [d.sigma, d.sigma],
        spread: d.half / Math.sqrt(3),
      };
    }
    const length = typedLength(this.table, typed);
    if (typeof length === 'string') return length;
    return knownBy(this.table, u, picks, length.mm, typed, use);
  }
}

/** Two picks and the true length: a dimension that the placement is fitted to, with those that are fitted already. */
export function takeCalibrateTool(table: Table): void {
  const start = currentUnderlay(table);
  if (!start) return;
  const current = () => get(table.session.state.model, 'underlay', start.id) ?? start;
  const measure = (a: Pick, b: Pick) => Math.hypot(b.plane[0] - a.plane[0], b.plane[1] - a.plane[1]);
  /** What has been warned of: the same entry a second time is meant. */
  let warned = '';
  let question: FieldRequest['question'];
  const pointed = new PointedAt(table, current);
  const tool = new PicksTool({
    id: 'calibrate',
    onlyUnderlay: start.id,
    ...pointed.plan,
    ...picksApart(table, start),
    steps: [
      'Click a printed figure or its line, or pick one end of a dimension that you know; the longest gives the best scale',
      'Pick its other end · Shift holds the axis',
    ],
    measure: (a, b) => `sheet says ${formatLengthWithUnit(measure(a, b), style(table))}`,
    ask: ([a, b]) => ({
      required: true,
      fields: [{ id: 'true', label: 'true length', unit: 'length', live: pointed.printed([a, b]) }],
      hint: `${pointed.words([a, b])}The sheet says ${formatLengthWithUnit(measure(a, b), style(table))} now. Enter scales it${tracedWords(table, current())}.`,
      question,
      onTyping: () => {
        question = undefined;
        table.showTool();
      },
    }),
    submit: (picks, values) => {
      // It is answered by its own buttons.
      if (question) return '';
      const u = current();
      const known = pointed.known(picks, values.true ?? '', 'fit');
      if (typeof known === 'string') return known;
      if (!apart(known)) return TOGETHER_WORDS;
      const next = [...knownOn(table.session.state.model, u.id), known];
      const doubt = doubtOf(table, u, next, known);
      const entry = `${known.from.join()} ${known.to.join()} ${known.printed}`;
      if (doubt && warned !== entry) {
        warned = entry;
        return doubt;
      }
      const label = `Calibrate ${u.name}`,
        placed = placedBy(u, next, wantedOf(u));
      const against =
        typeof placed === 'string'
          ? null
          : speaksAgainst(u, placed.placement, statedShare(placed.calibration.fit));
      if (against) {
        const end = (act: () => void) => () => {
          question = undefined;
          table.layDown();
          act();
        };
        question = {
          words: contradictionWords(
            table,
            against,
            next.filter(isFitted).length > 1
              ? 'With this dimension the sheet lies at'
              : 'These two picks make it',
          ),
          answers: [
            { label: takeWords(table, against), act: end(() => takeWitness(table, current(), against)) },
            {
              label: 'Take mine all the same',
              act: end(() => void refit(table, current(), next, label, undefined, doubtIn(against))),
            },
            {
              label: 'Pick again',
              act: () => {
                question = undefined;
                tool.cancel();
              },
            },
          ],
        };
        return '';
      }
      refit(table, u, next, label);
      return null;
    },
    done: () => table.layDown(),
  });
  table.hold(tool);
}

/** Two picks across a thing of a usual size: a reference that is only assumed, with its wide spread. */
export function takeUsualSizeTool(table: Table, size: UsualSize): void {
  const start = currentUnderlay(table);
  if (!start) return;
  table.hold(
    new PicksTool({
      id: 'usual',
      onlyUnderlay: start.id,
      ...picksApart(table, start),
      steps: [`${size.name}: pick one end`, 'Pick its other end · Shift holds the axis'],
      measure: (a, b) =>
        `taken as ${formatLengthWithUnit(size.millimetres, style(table))}, sheet says ${formatLengthWithUnit(Math.hypot(b.plane[0] - a.plane[0], b.plane[1] - a.plane[1]), style(table))}`,
      done: (picks) => {
        const u = get(table.session.state.model, 'underlay', start.id) ?? start;
        const known = knownOn(table.session.state.model, u.id);
        // Beside dimensions that are truly known an assumed one is only a check.
        const proven = known.some((c) => isFitted(c) && c.origin !== 'assumed');
        const entity: Check = {
          ...knownBy(table, u, picks, size.millimetres, size.name, proven ? 'check' : 'fit'),
          spread: size.spread,
          origin: 'assumed',
        };
        if (apart(entity)) refit(table, u, [...known, entity], `Assume ${size.name} on ${u.name}`);
        else table.session.tell(TOGETHER_WORDS, true);
        table.layDown();
      },
    }),
  );
}

/** What speaks against a dimension before it is taken: a scale that leaps, or a reference that is too short for the sheet. */
function doubtOf(table: Table, u: Underlay, next: readonly Check[], known: Check): string | null {
  const placed = placedBy(u, next, wantedOf(u));
  if (typeof placed === 'string') return null;
  const k = meanScale(placed.placement) / meanScale(u.placement);
  if (isWild(u.placement, placed.placement))
    return `That makes the sheet ${k > 1 ? `${formatNumber(k, 0)} times as large` : `1/${formatNumber(1 / k, 0)} as large`}. Is the unit right? Enter again does it.`;
  const points = Math.hypot(known.to[0] - known.from[0], known.to[1] - known.from[1]);
  const diagonal = Math.hypot(u.crop[2] - u.crop[0], u.crop[3] - u.crop[1]);
  if (next.filter(isFitted).length > 1 || points >= SHORT_SHARE * diagonal) return null;
  const better = longestPrinted(u, known);
  return `This is short for the sheet: a far corner may be off by ${formatLengthWithUnit(placed.calibration.fit!.across, style(table))}. ${better ? `Better: the ${better} printed on the sheet. ` : 'A longer one is better. '}Enter again takes it.`;
}

/** The longest printed dimension that has been read and agrees, if it is longer than the one at hand. */
function longestPrinted(u: Underlay, than: Check): string | null {
  const printed = printedOf(usePrinted.getState(), u);
  const found = printed?.state === 'read' ? onUnderlay(printed.reading, u) : null;
  const longest = found?.within
    .map((i) => found.reading.dimensions[i])
    .filter((d) => d.agrees)
    .sort((a, b) => b.points - a.points)[0];
  return longest && longest.points > 2 * Math.hypot(than.to[0] - than.from[0], than.to[1] - than.from[1])
    ? longest.text
    : null;
}

/** What happens to the elements traced on the sheet, said before it happens. */
function tracedWords(table: Table, u: Underlay): string {
  const n = tracedOn(table, u.id).length;
  if (n === 0) return '';
  const things = n === 1 ? 'the element' : `the ${n} elements`;
  return useCalibrateState.getState().carry
    ? `, and ${things} traced on it go along`
    : `; ${things} traced on it stay where they are`;
}

/** A further known dimension, held against the sheet. */
export function takeCheckTool(table: Table): void {
  const { model } = table.session.state;
  const u = model.get(table.state.getState().underlayId ?? '');
  if (u?.type !== 'underlay') {
    table.session.tell('Choose a sheet in the stack first.', true);
    return;
  }
  const sheetLength = (a: Pick, b: Pick) =>
    formatLengthWithUnit(measuredLength(u.placement, onSheet(u, a), onSheet(u, b)), style(table));
  const pointed = new PointedAt(table, () => get(table.session.state.model, 'underlay', u.id) ?? u);
  table.hold(
    new PicksTool({
      id: 'known',
      onlyUnderlay: u.id,
      ...pointed.plan,
      ...picksApart(table, u),
      steps: [
        'Known dimension: click its figure or its line, or pick one end',
        'Pick its other end · Shift holds the axis',
      ],
      measure: (a, b) => `measures ${sheetLength(a, b)}`,
      ask: ([a, b]) => ({
        required: true,
        fields: [{ id: 'printed', label: 'printed', unit: 'length', live: pointed.printed([a, b]) }],
        hint: `${pointed.words([a, b])}It measures ${sheetLength(a, b)}.${pointed.of([a, b]) ? '' : ' Type what is printed.'}`,
      }),
      submit: (picks, values) => {
        const entity = pointed.known(picks, values.printed ?? '', 'check');
        if (typeof entity === 'string') return entity;
        if (!apart(entity)) return TOGETHER_WORDS;
        table.session.do({ type: 'add', entity }, 'Enter a known dimension');
        return null;
      },
      done: () => {},
    }),
  );
}

/** One pick on an edge, or two along it, and the sheet is turned so that the edge is level or upright. */
export function takeLevelTool(table: Table): void {
  const u = currentUnderlay(table);
  if (!u) return;
  const turn = (p: Point, q: Point) => {
    const inverse = invertTransform(u.placement);
    const radians = levellingTurn(
      u.placement,
      applyTransform(inverse, p),
      applyTransform(inverse, q),
      'nearest',
    );
    place(table, u, turnPlacement(u.placement, radians, p), `Level ${u.name}`);
    table.layDown();
  };
  table.hold(
    new PicksTool({
      id: 'level',
      onlyUnderlay: u.id,
      ...picksApart(table, u),
      steps: [
        'Click an edge that ought to be level or upright (on a scan: pick two points along it)',
        'Pick a second point along the edge',
      ],
      first: (pick) => {
        const edge =
          pick.found?.kind === 'along' || pick.found?.kind === 'middle'
            ? pick.found.lit.find((l) => l.length === 2)
            : undefined;
        if (edge) turn(edge[0], edge[1]);
        return edge !== undefined;
      },
      done: ([a, b]) => turn(a.plane, b.plane),
    }),
  );
}

/** One pick, and that point of the sheet lies on the origin. */
export function takeOriginTool(table: Table): void {
  const u = currentUnderlay(table);
  if (!u) return;
  table.hold(
    new PicksTool({
      id: 'origin',
      onlyUnderlay: u.id,
      steps: ['Pick the point of the sheet that is to lie on the origin'],
      done: ([p]) => {
        place(
          table,
          u,
          movePointTo(u.placement, onSheet(u, p), [0, 0]),
          `Put a point of ${u.name} on the origin`,
        );
        table.layDown();
      },
    }),
  );
}

/** Turns the current sheet, about the middle of what is laid unless a point is given. */
export function turnCurrent(table: Table, radians: number, about?: Point): void {
  const u = currentUnderlay(table);
  if (!u) return;
  place(table, u, turnPlacement(u.placement, radians, about ?? middleOf(u)), `Turn ${u.name}`);
}

/** One pick, and the sheet is turned by an angle about it. */
export function takeTurnTool(table: Table, radians: number): void {
  const u = currentUnderlay(table);
  if (!u) return;
  const degrees = `${formatNumber((radians * 180) / Math.PI, 2)}\u00b0`;
  table.hold(
    new PicksTool({
      id: 'turn-sheet',
      steps: [`Pick the point to turn ${u.name} about, by ${degrees}`],
      done: ([p]) => {
        turnCurrent(table, radians, p.plane);
        table.layDown();
      },
    }),
  );
}
