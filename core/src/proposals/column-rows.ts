import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { NOT, ONE, sizeOf, type Shape } from './column-shapes.ts';
import { middleOf } from './grid.ts';

/** Columns that say so by nothing but where they stand are so many at least, no nearer to one another, millimetres, and nearly all in rows that cross or run on, within this of an angle; longer ones are desks. */
const ROWS = { least: 4, apart: 1700, share: 0.75, sine: 0.012, longest: 650, oblong: 2.2 };

/** Shapes as large as one another that stand far apart in rows: chairs, basins and tags do not. */
export function shapesInRows(l: Linework, shapes: readonly Shape[], mm: number): Set<Shape> {
  const groups = new Map<string, Shape[]>(),
    out = new Set<Shape>();
  for (const s of shapes) {
    if (!s.round && Math.max(s.width, s.depth) * mm > ROWS.longest) continue;
    if (Math.max(s.width, s.depth) > ROWS.oblong * Math.min(s.width, s.depth)) continue;
    const key = `${sizeOf(s)} ${s.round}`,
      row = groups.get(key);
    // A rectangle and its own outline again.
    if (!row) groups.set(key, [s]);
    // So many are tiles, or a pattern.
    else if (row.length <= MOST_IN_ROWS && !row.some((o) => far(o, s) < ONE)) row.push(s);
  }
  for (const of of groups.values()) {
    if (of.length < ROWS.least || of.length > MOST_IN_ROWS) continue;
    const isApart = of.every((s) => of.every((o) => o === s || far(s, o) * mm >= ROWS.apart));
    if (!isApart || of.filter((s) => standsInRow(s, of)).length < ROWS.share * of.length) continue;
    if (of.some((s) => hasText(l, s))) continue;
    const free = of.filter((s) => (s.round ? s.width * mm <= ROUND : standsFree(l, s, FREE / mm)));
    if (free.length >= ROWS.share * of.length) for (const s of free) out.add(s);
  }
  return out;
}
const MOST_IN_ROWS = 100;

/** Nothing but axes lies so near to a column that says so by nothing else, millimetres: a basin lies in a counter, a chair stands at a table. */
const FREE = 90,
  /** Round tables are larger. */
  ROUND = 800;

/** Is nothing drawn around a shape within so many sheet points, but its own sides and dashed lines through it? */
function standsFree(l: Linework, { at: [x, y], width, depth, turn }: Shape, room: number): boolean {
  const [c, s] = [Math.cos(turn), Math.sin(turn)],
    local = (px: number, py: number): [number, number] => [
      (px - x) * c + (py - y) * s,
      -(px - x) * s + (py - y) * c,
    ],
    [w, d] = [width / 2, depth / 2],
    isOwn = ([u, v]: readonly [number, number]) => Math.abs(u) <= w + ONE && Math.abs(v) <= d + ONE;
  for (let i = 0; i < l.segmentKind.length; i++) {
    if (NOT.has(ITEM_KINDS_OF_SHEET[l.segmentKind[i]])) continue;
    const [x0, y0, x1, y1] = l.segments.subarray(4 * i, 4 * i + 4);
    if (Math.max(x0, x1) < x - w - d - room || Math.min(x0, x1) > x + w + d + room) continue;
    if (Math.max(y0, y1) < y - w - d - room || Math.min(y0, y1) > y + w + d + room) continue;
    if ((l.pens[l.segmentStyle[2 * i + 1]]?.dash.length ?? 0) > 0) continue;
    const [p, q] = [local(x0, y0), local(x1, y1)];
    if (isOwn(p) && isOwn(q)) continue;
    if (crossesBox(p, q, w + room, d + room)) return false;
  }
  return true;
}

/** Does a line come into a box about zero, of these half sides? */
function crossesBox(
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
  w: number,
  d: number,
): boolean {
  let [a, b] = [0, 1];
  for (const [from, step, half] of [
    [x0, x1 - x0, w],
    [y0, y1 - y0, d],
  ]) {
    if (Math.abs(step) < 1e-12) {
      if (Math.abs(from) > half) return false;
      continue;
    }
    const [s, t] = [(-half - from) / step, (half - from) / step].sort((p, q) => p - q);
    [a, b] = [Math.max(a, s), Math.min(b, t)];
  }
  return a < b;
}

const far = (a: Shape, b: Shape): number => Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]);

/** Do two others lie square to one another as seen from a shape, or on one line with it? */
function standsInRow(s: Shape, of: readonly Shape[]): boolean {
  const ways = of
    .filter((o) => o !== s)
    .map((o): [number, number] => [(o.at[0] - s.at[0]) / far(s, o), (o.at[1] - s.at[1]) / far(s, o)]);
  return ways.some(([x, y], i) =>
    ways
      .slice(i + 1)
      .some(([u, v]) => Math.min(Math.abs(x * u + y * v), Math.abs(x * v - y * u)) <= ROWS.sine),
  );
}

/** Does something stand written in a shape? Then it is a bubble. */
function hasText(l: Linework, { at: [x, y], width, depth }: Shape): boolean {
  const half = Math.max(width, depth) / 2;
  return l.texts.some((t) => {
    const m = middleOf(t);
    return Math.abs(m.x - x) < half && Math.abs(m.y - y) < half;
  });
}
