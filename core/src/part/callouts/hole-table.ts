import { MM_PER_BARE } from '../../units/index.ts';
import { readCallout, type HoleCallout, type SheetUnit } from './callout.ts';
import type { WrittenText } from './note-lines.ts';

/** A hole by a row of a table; millimetres from the table's zero. */
export interface TableHole {
  /** What the row calls it; empty: nothing. */
  tag: string;
  x: number;
  y: number;
  callout: HoleCallout;
}
/** A table of holes as it was read. */
export interface HoleTable {
  holes: TableHole[];
  /** Rows that could not be read, as they are written. */
  unread: string[];
}

type Column = 'tag' | 'x' | 'y' | 'size';
const HEADS: readonly (readonly [Column, RegExp])[] = [
  [
    'x',
    /^(?:x|x[\s-]*(?:loc(?:ation)?|pos(?:ition)?|dim|coord(?:inate)?|axis|abstand)?\.?|(?:loc|pos|coord)\.?\s*x)$/i,
  ],
  [
    'y',
    /^(?:y|y[\s-]*(?:loc(?:ation)?|pos(?:ition)?|dim|coord(?:inate)?|axis|abstand)?\.?|(?:loc|pos|coord)\.?\s*y)$/i,
  ],
  [
    'size',
    /^(?:[Øø⌀∅]|(?:hole\s*)?(?:size|dia(?:meter)?|desc(?:ription)?|spec(?:ification)?|type|callout)\.?|bohrung(?:en)?|durchmesser|gr(?:ö|oe)sse|gr(?:ö|oe)ße)$/i,
  ],
  ['tag', /^(?:hole(?:\s*(?:no|id|tag|label)\.?)?|tag|label|no\.?|nr\.?|id|pos\.?|item|mark|#|feature)$/i],
];
/** A unit that a head says of its column. */
const UNIT = /\s*[([]\s*(mm|in|inch|inches|["″])\s*[)\]]\s*$/i;

/** Texts whose middles lie so near to one line are a row, in heights; a table ends where its next row would be so much farther than its rows are apart. */
const ONE_ROW = 0.6,
  NEXT_ROW = 2.6;
const MOST_ROWS = 2000;

interface Cell {
  text: string;
  left: number;
  right: number;
  middle: number;
  /** Downwards. */
  down: number;
  height: number;
}

/**
 * Reads tables of holes: a row of heads with X, Y and a size (tag, hole, size, diameter, description …), and below it a row to each hole. A size is a note
 * at a hole or a bare diameter; where a row has none it has that of the row above. Bare figures are in the unit of the sheet, or in what a head says.
 */
export function readHoleTables(texts: readonly WrittenText[], unit: SheetUnit): HoleTable[] {
  const cells = texts.filter((t) => Math.abs(Math.sin(t.radians)) < 0.02 && t.text.trim() !== '').map(cellOf),
    rows = rowsOf(cells);
  return rows.flatMap((row, i) => {
    const heads = headsOf(row);
    return heads ? [tableBelow(heads, row, rows.slice(i + 1), unit)] : [];
  });
}

const cellOf = ({ text, x, y, width, height }: WrittenText): Cell => ({
  text: text.trim(),
  left: x,
  right: x + width,
  middle: x + width / 2,
  down: -(y + height / 3),
  height,
});

function rowsOf(cells: readonly Cell[]): Cell[][] {
  const out: Cell[][] = [];
  for (const cell of [...cells].sort((a, b) => a.down - b.down)) {
    const last = out.at(-1);
    if (last && cell.down - last[0].down <= ONE_ROW * Math.max(cell.height, last[0].height)) last.push(cell);
    else out.push([cell]);
  }
  return out.map((row) => row.sort((a, b) => a.left - b.left));
}

interface Head {
  column: Column;
  cell: Cell;
  unit: SheetUnit | null;
}

const unitSaid = (words: string): SheetUnit => (/mm/i.test(words) ? 'mm' : 'in');

/** The heads of a table of holes; null where a row is none. */
function headsOf(row: readonly Cell[]): Head[] | null {
  const heads = row.flatMap((cell): Head[] => {
    const said = UNIT.exec(cell.text),
      bare = cell.text.replace(UNIT, '').trim(),
      found = HEADS.find(([, pattern]) => pattern.test(bare));
    return found ? [{ column: found[0], cell, unit: said ? unitSaid(said[1]) : null }] : [];
  });
  const of = (c: Column) => heads.filter((h) => h.column === c).length;
  return of('x') === 1 && of('y') === 1 && of('size') <= 1 && heads.length >= 2 ? heads : null;
}

function tableBelow(
  heads: readonly Head[],
  head: readonly Cell[],
  below: readonly Cell[][],
  unit: SheetUnit,
): HoleTable {
  const holes: TableHole[] = [],
    unread: string[] = [],
    [from, to] = [Math.min(...head.map((c) => c.left)), Math.max(...head.map((c) => c.right))],
    wide = to - from;
  let before = head[0].down,
    apart = 0,
    size: HoleCallout | null = null,
    tag = '';
  for (const row of below.slice(0, MOST_ROWS)) {
    const within = row.filter((c) => c.middle > from - 0.3 * wide && c.middle < to + wide);
    if (within.length === 0) continue;
    const step = row[0].down - before;
    if (step > NEXT_ROW * Math.max(apart, 1.6 * row[0].height)) break;
    apart ||= step;
    before = row[0].down;
    const by = columnsOf(within, heads),
      [x, y] = [
        numberOf(by.get('x'), headUnit(heads, 'x', unit)),
        numberOf(by.get('y'), headUnit(heads, 'y', unit)),
      ];
    if (x === null || y === null) {
      // What follows a table is not of it; what has one figure and lacks the other is.
      if (x === null && y === null) break;
      unread.push(within.map((c) => c.text).join('  '));
      continue;
    }
    const said = by.get('size') ?? '';
    if (said !== '') size = sizeOf(said, headUnit(heads, 'size', unit));
    tag = by.get('tag') ?? tag;
    if (size) holes.push({ tag, x, y, callout: size });
    else unread.push(within.map((c) => c.text).join('  '));
  }
  return { holes, unread };
}

const headUnit = (heads: readonly Head[], column: Column, unit: SheetUnit): SheetUnit =>
  heads.find((h) => h.column === column)?.unit ?? unit;

/** What of a row stands under which head: the nearest by where it begins, its middle or its end, however it is set. */
function columnsOf(row: readonly Cell[], heads: readonly Head[]): Map<Column, string> {
  const out = new Map<Column, string>();
  for (const cell of row) {
    const off = ({ cell: h }: Head) =>
      Math.min(...[cell.left - h.left, cell.middle - h.middle, cell.right - h.right].map(Math.abs));
    const { column } = heads.reduce((a, b) => (off(b) < off(a) ? b : a));
    out.set(column, out.has(column) ? `${out.get(column)} ${cell.text}` : cell.text);
  }
  return out;
}

const FIGURE = /^([-+−]?)\s*(\d*[.,]?\d+)\s*(mm|in|["″])?$/i;
function numberOf(text: string | undefined, unit: SheetUnit): number | null {
  const match = text === undefined ? null : FIGURE.exec(text.trim());
  if (!match) return null;
  const own: SheetUnit = match[3] ? unitSaid(match[3]) : unit,
    value = Number(match[2].replace(',', '.')) * MM_PER_BARE[own];
  return match[1] === '-' || match[1] === '−' ? -value : value;
}

function sizeOf(text: string, unit: SheetUnit): HoleCallout | null {
  // Under such a head a figure without a sign is a diameter.
  const note = readCallout(text, unit) ?? readCallout(`Ø${text}`, unit);
  return note && { ...note, text: text.trim(), count: 1 };
}

/** A round that is drawn, plane millimetres. */
export interface DrawnRound {
  centre: readonly [number, number];
  radius: number;
}

/** How near a hole must stand to a round to be it, and to its size, millimetres. */
const IN_ITS_ROUND = 0.6,
  LIKE = 0.6;
const MOST_TRIED = 4000;

/**
 * Where a table's zero lies on a plane, by the rounds that are drawn there: so that most of its holes stand in one. Null where no place puts more than one
 * in its round.
 */
export function zeroOfTable(
  { holes }: HoleTable,
  rounds: readonly DrawnRound[],
): { at: [number, number]; fits: number } | null {
  let best: { at: [number, number]; fits: number } | null = null,
    tried = 0;
  for (const hole of holes)
    for (const round of rounds) {
      if (!isLike(hole, round) || tried++ > MOST_TRIED) continue;
      const at: [number, number] = [round.centre[0] - hole.x, round.centre[1] - hole.y],
        fits = holes.filter((h) =>
          rounds.some(
            (r) =>
              isLike(h, r) &&
              Math.hypot(at[0] + h.x - r.centre[0], at[1] + h.y - r.centre[1]) <= IN_ITS_ROUND,
          ),
        ).length;
      if (fits > 1 && (best === null || fits > best.fits)) best = { at, fits };
    }
  return best;
}
const isLike = ({ callout }: TableHole, { radius }: DrawnRound): boolean =>
  [callout.diameter, callout.head?.diameter ?? NaN, threadSize(callout)].some(
    (d) => Math.abs(d - 2 * radius) <= LIKE,
  );
/** A thread is often drawn by its outer diameter. */
const threadSize = ({ thread }: HoleCallout): number => thread?.known?.diameter ?? NaN;
