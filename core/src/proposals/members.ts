import { ITEM_KINDS_OF_SHEET, type Linework, type PageText } from '../linework/index.ts';
import { middleOf } from './grid.ts';
import { joined, type Span } from './spans.ts';
import type { ProposedMember } from './types.ts';

const PAPER = 72 / 25.4;
/** A mark stands so near to its member, and runs along it within this, millimetres of paper and radians. */
const BESIDE = 7,
  ALONG = 0.05;
/** Pieces of a member's line lie so near to one another: of a solid one, and of one that is drawn with dashes, millimetres of paper. */
const GAP = 0.6,
  DASH_GAP = 5;
/** A member is longer than this, millimetres, and than its mark so many times; both its edges are no farther apart than the third, millimetres. */
const SHORTEST = 500,
  LONGER = 1.15,
  DEEPEST = 700;
/** Lines end alike within this share of their length, and a line is thick that is so many times as wide as most. */
const ALIKE = 0.08,
  THICK = 1.9;

/** How sure a member is: with the name of its section beside a pair of edges or a thick line, beside another line; with another mark. */
const NAMED_PLAIN = 0.92,
  NAMED = 0.8,
  MARKED = 0.75;

/** Designations of sections: letters that the trade knows before figures (single letters are of windows and columns too: these have two sizes), or two sizes of timber. */
const SECTION =
  /^(?:\d+\s*[x×]\s*)?(?:HE[ABM]?|HL|IPE[AO]?|IPN|INP|UPE|UPN|UNP|UAP|UB|UC|PFC|RSJ|SHS|RHS|CHS|HSS|QRO|RRO|ROR|TPS|GLT?|BSH|KVH|LVL|GL\d\d[a-z]?|C\d\d)\s*-?\d[\dx×.,/ *-]*[A-Za-z]?$|^(?:\d+\s*[x×]\s*)?(?:W|WT|HP|MC|L|Z|C)\s*-?\d+(?:[.,/]\d+)?\s*[x×][\dx×.,/ *-]*\d[A-Za-z]?$|^\d{2,3}\s*[x×/]\s*\d{2,3}(?:\s*(?:C\d\d|GL\d\d[a-z]?))?$/i;
/** Marks of members: one to three letters and a number. */
const MARK = /^[A-Z]{1,3}[-. ]?\d{1,3}[a-z]?$/;

export const isSectionName = (text: string): boolean => SECTION.test(text.trim());

/** More marks are not looked at, nor more lines in all. */
const MOST_MARKS = 3000,
  MOST_LOOKS = 1e8;

interface Line {
  from: readonly [number, number];
  to: readonly [number, number];
  width: number;
  dashed: boolean;
}

/**
 * The members of a frame that a sheet shows, by what is written along them: single lines, or both edges with or without a line in the middle. Names of
 * sections tell a member by themselves; other marks where the line is a thick one, and only where `marks` may be members'.
 */
export function membersOf(l: Linework, mm: number, marks: boolean): ProposedMember[] {
  const lines = linesOf(l);
  if (lines.length === 0) return [];
  const usual = usualWidth(lines),
    out: ProposedMember[] = [];
  let asked = 0;
  for (const t of l.texts) {
    const mark = t.text.trim(),
      named = isSectionName(mark);
    if (!named && !(marks && MARK.test(mark))) continue;
    if (t.layer >= 0 && l.layers[t.layer]?.on === false) continue;
    if (++asked > MOST_MARKS || asked * lines.length > MOST_LOOKS) break;
    const found = lineBeside(t, lines, mm, named ? 0 : THICK * usual);
    if (!found) continue;
    const known = out.find((o) => isSame(o, found));
    // Of one that is named and marked the name of its section counts.
    if (known) {
      if (named && !isSectionName(known.mark)) known.mark = mark;
      continue;
    }
    const isPlain = found.edges > 1 || found.thick,
      ofNamed = isPlain ? NAMED_PLAIN : NAMED;
    out.push({ ...found, mark, confidence: named ? ofNamed : MARKED });
  }
  return out.map(({ from, to, mark, confidence }) => ({ from, to, mark, confidence }));
}

type Found = Pick<ProposedMember, 'from' | 'to'> & { edges: number; thick: boolean };

function linesOf(l: Linework): Line[] {
  const out: Line[] = [];
  for (let i = 0; i < l.segmentKind.length; i++) {
    const kind = ITEM_KINDS_OF_SHEET[l.segmentKind[i]],
      layer = l.segmentStyle[2 * i],
      pen = l.pens[l.segmentStyle[2 * i + 1]];
    if (kind !== 'line' || (layer >= 0 && l.layers[layer]?.on === false)) continue;
    const [x0, y0, x1, y1] = l.segments.subarray(4 * i, 4 * i + 4);
    out.push({
      from: [x0, y0],
      to: [x1, y1],
      width: pen?.width ?? 0,
      dashed: (pen?.dash.length ?? 0) > 0,
    });
  }
  return out;
}

/** The width at which half of all that is drawn is drawn. */
function usualWidth(lines: readonly Line[]): number {
  const sorted = lines
      .map((l) => ({ width: l.width, length: Math.hypot(l.to[0] - l.from[0], l.to[1] - l.from[1]) }))
      .sort((a, b) => a.width - b.width),
    all = sorted.reduce((sum, l) => sum + l.length, 0);
  let half = 0;
  for (const { width, length } of sorted) {
    half += length;
    if (half >= all / 2) return width;
  }
  return 0;
}

/** The line, or the pair of edges, along which a text stands. */
function lineBeside(t: PageText, lines: readonly Line[], mm: number, least: number): Found | null {
  const { x, y } = middleOf(t),
    [ux, uy] = [Math.cos(t.radians), Math.sin(t.radians)],
    reach = BESIDE * PAPER + t.height;
  /** Lines along the text, by how far off they lie. */
  const rows = new Map<number, { off: number; spans: Span[]; width: number; dashed: boolean }>();
  for (const { from, to, width, dashed } of lines) {
    if (width < least) continue;
    const n = Math.hypot(to[0] - from[0], to[1] - from[1]);
    if (n < 1 || Math.abs((to[0] - from[0]) * uy - (to[1] - from[1]) * ux) > ALONG * n) continue;
    const [s, e] = [from, to].map((p) => (p[0] - x) * ux + (p[1] - y) * uy).sort((a, b) => a - b),
      off = ((from[1] + to[1]) / 2 - y) * ux - ((from[0] + to[0]) / 2 - x) * uy;
    if (Math.abs(off) > reach + DEEPEST / mm) continue;
    const key = Math.round(off / 0.5),
      near = [key, key - 1, key + 1].find((k) => rows.has(k)),
      row = near === undefined ? null : rows.get(near)!;
    if (row) {
      row.spans.push([s, e]);
      row.dashed ||= dashed;
    } else rows.set(key, { off, spans: [[s, e]], width, dashed });
  }
  const beside = [...rows.values()].flatMap(({ off, spans, width, dashed }) => {
    const span = joined(spans, (dashed ? DASH_GAP : GAP) * PAPER).find(
      ([s, e]) => s <= t.width / 4 && e >= -t.width / 4,
    );
    return span && (span[1] - span[0]) * mm >= SHORTEST && span[1] - span[0] >= LONGER * t.width
      ? [{ off, span, width }]
      : [];
  });
  const nearest = beside
    .filter((b) => Math.abs(b.off) <= reach)
    .sort((a, b) => Math.abs(a.off) - Math.abs(b.off))[0];
  if (!nearest) return null;
  const length = nearest.span[1] - nearest.span[0],
    edges = beside.filter(
      (b) =>
        Math.abs(b.off - nearest.off) * mm <= DEEPEST &&
        Math.abs(b.span[0] - nearest.span[0]) <= ALIKE * length &&
        Math.abs(b.span[1] - nearest.span[1]) <= ALIKE * length,
    ),
    offs = edges.map((e) => e.off),
    off = (Math.min(...offs) + Math.max(...offs)) / 2,
    [s, e] = [
      edges.reduce((sum, b) => sum + b.span[0], 0) / edges.length,
      edges.reduce((sum, b) => sum + b.span[1], 0) / edges.length,
    ],
    at = (along: number): [number, number] => [x + along * ux - off * uy, y + along * uy + off * ux];
  return { from: at(s), to: at(e), edges: edges.length, thick: nearest.width >= THICK };
}

/** Are two members one, whichever way they run? */
function isSame(a: Pick<ProposedMember, 'from' | 'to'>, b: Pick<ProposedMember, 'from' | 'to'>): boolean {
  const near = (p: readonly number[], q: readonly number[]) =>
    Math.hypot(p[0] - q[0], p[1] - q[1]) < 2 * PAPER;
  return (near(a.from, b.from) && near(a.to, b.to)) || (near(a.from, b.to) && near(a.to, b.from));
}
