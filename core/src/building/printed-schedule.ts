import {
  group,
  ofType,
  setFields,
  standing,
  topOf,
  type Change,
  type Model,
  type Wall,
  type WallOpening,
} from '../model/index.ts';
import { MM_PER } from '../units/index.ts';
import { asPrinted, bare, BARE, HIGHEST, LOWEST, signed, SIZE } from './opening-words.ts';
import { openingsOf } from './wall-geometry.ts';

/** A text of a page: where it begins, its em height, its width, sheet points; its direction in radians. */
export interface ScheduleText {
  text: string;
  x: number;
  y: number;
  height: number;
  width: number;
  radians: number;
}

/** What a row of a schedule says of an opening; millimetres, null for what it does not say. */
export interface ScheduledOpening {
  tag: string;
  width: number | null;
  height: number | null;
  sill: number | null;
  head: number | null;
  /** In its own words. */
  type: string | null;
  material: string | null;
}

type Column = 'tag' | 'size' | 'width' | 'height' | 'sill' | 'head' | 'type' | 'material';
/** How schedules head their columns. What stands first counts: a sill's height is a sill. */
const HEADS: readonly [Column, RegExp][] = [
  ['sill', /\b(?:sill|cill|brh|brüstung\w*)\b/i],
  ['head', /\bhead\b/i],
  ['size', /^(?:.*\b(?:size|dimensions?)\b.*|w(?:idth)?\s*[x×]\s*h(?:eight)?)(?:\W*\(?(?:mm|cm|m|in)\)?)?$/i],
  ['width', /^(?:[a-z. ]*\bwidth|w|b|breite)\b/i],
  ['height', /^(?:[a-z. ]*\bheight|h|höhe|ht)\b/i],
  [
    'tag',
    /^(?:tag|mark|type mark|no|nr|number|ref|reference|id|pos|code|(?:door|window|opening)s?(?:\s*(?:no|nr|number|tag|mark|ref|id))?)\W*$/i,
  ],
];
/** What some schedules say of an opening in words; a column of names that are short and have figures is one of tags. */
const WORDS: readonly [Column, RegExp][] = [
  ['material', /^(?:(?:frame|leaf|door|window)\s*)?(?:material|werkstoff)\W*$/i],
  ['type', /^(?:(?:door|window|opening)\s*)?(?:type|style|description|typ|art)\W*$/i],
];
/** Longer words are a note. */
const LONGEST_WORDS = 80;
const UNITS: readonly [RegExp, number][] = [
  [/\bmm\b/i, 1],
  [/\bcm\b/i, MM_PER.cm],
  [/\b(?:in|inch|inches)\b|"/i, MM_PER.in],
  [/\b(?:m|metres?|meters?)\b/i, MM_PER.m],
];
/** A name of an opening is short, and has a figure in it. */
const TAG = /^[A-Za-z]{0,4}[-. ]?\d{1,4}[A-Za-z]?$/;

/** A text this much of its height beside a line of others is on it. */
const ON_LINE = 0.5;
/** Pieces of a heading that stand nearer than this many of their heights are one. */
const ONE_HEADING = 0.8;
/** A schedule ends where its next row would be farther than this many of the rows before. */
const ROW_GAP = 4;
/** Texts turned by more than this, radians, are of no schedule. */
const LEVEL = 0.02;

interface Head {
  column: Column;
  from: number;
  to: number;
  /** What it says of the unit, millimetres. */
  unit: number | null;
}

/** The rows of all schedules of openings on a page, by their tags: of a tag that comes twice the first. Empty where there is none. */
export function printedSchedule(texts: readonly ScheduleText[]): ScheduledOpening[] {
  const lines = linesOf(texts.filter((t) => Math.abs(t.radians) < LEVEL && t.text.trim() !== '')),
    rows = new Map<string, ScheduledOpening>();
  for (let i = 0; i < lines.length; i++) {
    const found = headsAt(lines, i);
    if (!found) continue;
    const { heads, next } = found,
      end = endOf(lines, next, lines[i][0].height);
    for (const row of rowsOf(heads, lines.slice(next, end)))
      if (!rows.has(tagKey(row.tag))) rows.set(tagKey(row.tag), row);
    i = end - 1;
  }
  return [...rows.values()];
}

/** Tags by what tells them apart: D-01, d01 and "D 01" are one. */
export const tagKey = (tag: string): string => tag.toUpperCase().replace(/[-. ]/g, '');

/** Texts in lines from the top down, each from the left. */
function linesOf(texts: readonly ScheduleText[]): ScheduleText[][] {
  const lines: ScheduleText[][] = [];
  for (const text of [...texts].sort((a, b) => b.y - a.y)) {
    const last = lines.at(-1);
    if (last && Math.abs(last[0].y - text.y) <= ON_LINE * Math.max(text.height, last[0].height))
      last.push(text);
    else lines.push([text]);
  }
  for (const line of lines) line.sort((a, b) => a.x - b.x);
  return lines;
}

/** The heading of a schedule, in one line or in two; null where there is none. */
function headsAt(lines: readonly ScheduleText[][], i: number): { heads: Head[]; next: number } | null {
  for (const count of [1, 2]) {
    const heads = lines.slice(i, i + count).flatMap((line) => headingsOf(line)),
      has = (c: Column) => heads.some((h) => h.column === c);
    // Its first line has something of it.
    if (count === 2 && headingsOf(lines[i]).length === 0) return null;
    if (has('tag') && (has('size') || (has('width') && has('height'))))
      return { heads, next: Math.min(lines.length, i + count) };
  }
  return null;
}

function headingsOf(line: readonly ScheduleText[]): Head[] {
  const pieces: ScheduleText[] = [];
  for (const t of line) {
    const last = pieces.at(-1);
    if (last && t.x - (last.x + last.width) < ONE_HEADING * t.height) {
      last.text = `${last.text} ${t.text}`;
      last.width = t.x + t.width - last.x;
    } else pieces.push({ ...t });
  }
  return pieces.flatMap(({ text, x, width }): Head[] => {
    const words = text.trim(),
      found = [...HEADS, ...WORDS].find(([, pattern]) => pattern.test(words));
    return found
      ? [{ column: found[0], from: x, to: x + width, unit: UNITS.find(([p]) => p.test(words))?.[1] ?? null }]
      : [];
  });
}

/** Where a schedule's rows end: at a wide gap, or at the next heading. */
function endOf(lines: readonly ScheduleText[][], next: number, height: number): number {
  let pitch = 3 * height;
  for (let i = next; i < lines.length; i++) {
    const gap = (lines[i - 1]?.[0].y ?? lines[i][0].y) - lines[i][0].y;
    if (gap > ROW_GAP * pitch || (i > next && headsAt(lines, i))) return i;
    if (i > next && gap > 0) pitch = Math.max(pitch, gap);
  }
  return lines.length;
}

function rowsOf(heads: readonly Head[], lines: readonly ScheduleText[][]): ScheduledOpening[] {
  const cells = lines.flatMap((line): Map<Column, string>[] => {
    const row = new Map<Column, string>();
    for (const t of line) {
      const head = nearestHead(heads, t);
      if (head) row.set(head.column, [row.get(head.column), t.text.trim()].filter(Boolean).join(' '));
    }
    return TAG.test(row.get('tag') ?? '') ? [row] : [];
  });
  const unitOf = (column: Column) => heads.find((h) => h.column === column)?.unit ?? null,
    unit = unitOf('width') ?? unitOf('size') ?? unitOf('height') ?? unitIn(cells);
  const length = (row: Map<Column, string>, column: Column): number | null => {
    const text = (row.get(column) ?? '').replace(/^\+/, '');
    if (!/\d/.test(text)) return null;
    const value = signed(text) ?? bare(text) * (unitOf(column) ?? unit ?? NaN);
    return Number.isFinite(value) ? value : null;
  };
  return cells.flatMap((row): ScheduledOpening[] => {
    const size = SIZE.exec((row.get('size') ?? '').replace(/\s+/g, ' ')),
      of = (figure: string) => signed(figure) ?? bare(figure) * (unit ?? NaN),
      width = between(size ? of(size[1]) : length(row, 'width')),
      height = between(size ? of(size[2]) : length(row, 'height'));
    const said = (column: Column) => {
      const words = (row.get(column) ?? '').replace(/\s+/g, ' ').trim();
      return /[\p{L}\d]/u.test(words) && words.length <= LONGEST_WORDS ? words : null;
    };
    const sill = length(row, 'sill'),
      head = between(length(row, 'head'));
    return width === null && height === null
      ? []
      : [
          {
            tag: row.get('tag')!,
            width,
            height,
            sill: sill !== null && sill >= 0 && sill < HIGHEST ? sill : null,
            head,
            type: said('type'),
            material: said('material'),
          },
        ];
  });
}

const between = (v: number | null) => (v !== null && v >= LOWEST && v <= HIGHEST ? v : null);

/** The heading below which a text stands: the one that it overlaps most, else the nearest. */
function nearestHead(heads: readonly Head[], { x, width, height }: ScheduleText): Head | null {
  let best: Head | null = null,
    least = Infinity;
  for (const head of heads) {
    // Less than nothing where they overlap.
    const apart = Math.max(head.from - (x + width), x - head.to);
    if (apart < least) [best, least] = [head, apart];
  }
  // What stands far from all headings is of a column that is not asked for.
  return least <= 2 * height ? best : null;
}

/** The unit in which the bare figures of a schedule are sizes of openings; null where that is none. */
function unitIn(rows: readonly Map<Column, string>[]): number | null {
  const figures = rows.flatMap((row) => {
    const size = SIZE.exec(row.get('size') ?? ''),
      texts = size ? [size[1], size[2]] : [row.get('width') ?? '', row.get('height') ?? ''];
    return texts.filter((t) => /\d/.test(t) && signed(t) === null).map(bare);
  });
  if (figures.length === 0) return null;
  return BARE.find((unit) => figures.every((f) => f * unit >= LOWEST && f * unit <= HIGHEST)) ?? null;
}

/** An opening with what a schedule says of its type and what it is made of; what that does not say stays. */
export const withWords = (
  o: WallOpening,
  { type, material }: Pick<ScheduledOpening, 'type' | 'material'>,
): WallOpening => ({ ...o, ...(type !== null && { type }), ...(material !== null && { material }) });

/** What a schedule does to the openings of a model. */
export interface TakenSchedule {
  /** Null where nothing would change. */
  change: Change | null;
  /** Tags of openings whose heights it says, and of those whose width in the plan is another: printed, and measured. */
  taken: string[];
  differs: { tag: string; printed: number; measured: number }[];
  /** Tags that it has and no opening, and tags of openings that it has not. */
  unplaced: string[];
  missing: string[];
}

/** Widths further apart than this, millimetres, differ. */
const SAME_WIDTH = 5;

/** Takes sills, heads, types and materials of openings from a schedule, by their tags; their widths stay the plan's, and what differs is told. */
export function withSchedule(model: Model, rows: readonly ScheduledOpening[]): TakenSchedule {
  const byTag = new Map(rows.map((r) => [tagKey(r.tag), r])),
    out: TakenSchedule = { change: null, taken: [], differs: [], unplaced: [], missing: [] },
    met = new Set<string>(),
    changes: (Change | null)[] = [];
  for (const wall of ofType(model, 'wall')) {
    const openings = openingsOf(wall).length > 0 ? (wall.openings ?? []) : [],
      next = openings.map((o) => {
        const row = o.tag === '' ? undefined : byTag.get(tagKey(o.tag));
        if (!row) {
          if (o.tag !== '') out.missing.push(o.tag);
          return o;
        }
        met.add(tagKey(o.tag));
        const measured = Math.hypot(o.to[0] - o.from[0], o.to[1] - o.from[1]);
        if (row.width !== null && Math.abs(row.width - measured) > SAME_WIDTH)
          out.differs.push({ tag: o.tag, printed: row.width, measured });
        const height = row.height ?? (row.head !== null && row.sill !== null ? row.head - row.sill : null),
          sill = row.sill ?? (row.head !== null && row.height !== null ? row.head - row.height : null),
          said = withWords(
            asPrinted(o, { tag: null, width: null, height, sill }, topOf(standing(model, wall))),
            row,
          );
        if (
          said.sill === o.sill &&
          said.head === o.head &&
          said.assumed.length === o.assumed.length &&
          said.type === o.type &&
          said.material === o.material
        )
          return o;
        out.taken.push(o.tag);
        return said;
      });
    if (next.some((o, i) => o !== openings[i])) changes.push(setFields<Wall>(wall, { openings: next }));
  }
  out.unplaced = rows.filter((r) => !met.has(tagKey(r.tag))).map((r) => r.tag);
  out.change = group(changes);
  return out;
}
