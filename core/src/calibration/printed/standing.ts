import { LineIndex, STRIDE, type Linework, type PageText } from '../../linework/index.ts';

/** Where a text stands on the sheet, as far as that says whether it measures anything. */
export interface Standing {
  /** In a ruled table: the number of something, not a length of the sheet. */
  table: boolean;
  /** A line of its own under it: drawn not to scale. */
  underlined: boolean;
  /** In a small ring: a grid line, a mark, a number of a door. */
  ringed: boolean;
  /** The text above it over the same line, by its number: this one is its second figure. */
  under: number | null;
}

/** A line beside a text, in the text's own frame: `u` along it from its start, `v` up from its base line, sheet points. */
interface Row {
  v: number;
  from: number;
  to: number;
}

const SINE = 0.02,
  SAME_ROW = 0.3,
  GAP = 0.6;
/** Rules of a table lie within this many heights of the base line; a cell is at most so high. */
const RULE_REACH = 3.5,
  HIGHEST_CELL = 4.5;
/** Rows and columns that make a table rather than a pair of lines. */
const LEAST_CELLS = 4;
const SAME_RULE = 0.4;

/** Looks at what stands around each text; the list runs beside the texts. `slack`: how far lines may miss the truth, sheet points. */
export function standings(
  texts: readonly (PageText | null)[],
  l: Linework,
  candidates: ReadonlySet<number>,
  slack = 0,
): Standing[] {
  const lines = new LinesBeside(l);
  const out = texts.map((): Standing => ({ table: false, underlined: false, ringed: false, under: null }));
  const cells = new Map<number, Cell>(),
    alike = commonTurns(texts);
  texts.forEach((t, i) => {
    if (!t) return;
    const cell = cellOf({ ...t, radians: alike[i] }, lines, slack);
    if (cell) cells.set(i, cell);
    if (!candidates.has(i)) return;
    out[i].underlined = isUnderlined(t, lines);
    out[i].ringed = isRinged(t, l);
  });
  for (const i of inTables(cells, alike, SAME_RULE + 4 * slack)) out[i].table = true;
  for (const [below, above] of pairsAcrossLines(texts, lines, candidates))
    if (!out[below].table) out[below].under = above;
  return out;
}

/** Straight lines beside texts, in pieces or whole, as they look. */
class LinesBeside {
  private readonly index: LineIndex;
  constructor(private readonly l: Linework) {
    this.index = new LineIndex(
      l.segments,
      Int32Array.from({ length: l.segments.length / STRIDE.segments }, (_, i) => i),
    );
  }

  /** Lines along the text (`square`: square to it, with u and v exchanged) within a stretch of its frame, pieces joined. */
  rows(
    t: PageText,
    [u0, u1]: readonly [number, number],
    [v0, v1]: readonly [number, number],
    square = false,
  ): Row[] {
    const ux = Math.cos(t.radians),
      uy = Math.sin(t.radians),
      s = this.l.segments;
    const at = (u: number, v: number) => [t.x + u * ux - v * uy, t.y + u * uy + v * ux];
    const corners = [at(u0, v0), at(u1, v0), at(u0, v1), at(u1, v1)],
      xs = corners.map((p) => p[0]),
      ys = corners.map((p) => p[1]);
    const pieces: { v: number; a: number; b: number }[] = [];
    for (const i of this.index.inBox(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys))) {
      const local = (k: number) => {
        const dx = s[k] - t.x,
          dy = s[k + 1] - t.y;
        return [dx * ux + dy * uy, -dx * uy + dy * ux];
      };
      let p = local(4 * i),
        q = local(4 * i + 2);
      if (square)
        [p, q] = [
          [p[1], p[0]],
          [q[1], q[0]],
        ];
      const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
      if (length < 0.3 || Math.abs(q[1] - p[1]) > SINE * length) continue;
      const v = (p[1] + q[1]) / 2,
        [lo, hi] = square ? [u0, u1] : [v0, v1];
      if (v >= lo && v <= hi) pieces.push({ v, a: Math.min(p[0], q[0]), b: Math.max(p[0], q[0]) });
    }
    return joined(pieces);
  }

  /** Does anything else touch the place, as a mark or a witness line does? Not what runs along the text itself. */
  touched([x, y]: readonly [number, number], radians: number, reach: number): boolean {
    const s = this.l.segments,
      ux = Math.cos(radians),
      uy = Math.sin(radians);
    const across = (a: Float64Array, i: number) =>
      Math.abs(-(a[4 * i + 2] - a[4 * i]) * uy + (a[4 * i + 3] - a[4 * i + 1]) * ux) >
      0.05 * Math.hypot(a[4 * i + 2] - a[4 * i], a[4 * i + 3] - a[4 * i + 1]);
    return this.index
      .inBox(x - reach, y - reach, x + reach, y + reach)
      .some((i) => across(s, i) && distance(s, 4 * i, x, y) <= reach);
  }
}

function distance(s: Float64Array, k: number, x: number, y: number): number {
  const dx = s[k + 2] - s[k],
    dy = s[k + 3] - s[k + 1],
    square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((x - s[k]) * dx + (y - s[k + 1]) * dy) / square));
  return Math.hypot(s[k] + t * dx - x, s[k + 1] + t * dy - y);
}

function joined(pieces: { v: number; a: number; b: number }[]): Row[] {
  const rows: Row[] = [];
  for (const p of pieces.sort((m, n) => m.v - n.v || m.a - n.a)) {
    const row = rows.find((r) => Math.abs(r.v - p.v) < SAME_ROW && p.a <= r.to + GAP && p.b >= r.from - GAP);
    if (row) Object.assign(row, { from: Math.min(row.from, p.a), to: Math.max(row.to, p.b) });
    else rows.push({ v: p.v, from: p.a, to: p.b });
  }
  return rows;
}

/** An underline is as long as its figure and touches nothing. */
function isUnderlined(t: PageText, lines: LinesBeside): boolean {
  const h = t.height;
  const under = lines
    .rows(t, [-h, t.width + h], [-0.45 * h, -0.02 * h])
    .find((r) => r.from > -0.6 * h && r.from < 0.5 * h && Math.abs(r.to - t.width) < 0.6 * h);
  if (!under) return false;
  const ux = Math.cos(t.radians),
    uy = Math.sin(t.radians),
    at = (u: number): [number, number] => [t.x + u * ux - under.v * uy, t.y + u * uy + under.v * ux];
  return (
    !lines.touched(at(under.from), t.radians, 0.15 * h) && !lines.touched(at(under.to), t.radians, 0.15 * h)
  );
}

function isRinged(t: PageText, l: Linework): boolean {
  const h = t.height,
    mx = t.x + (Math.cos(t.radians) * t.width) / 2 - Math.sin(t.radians) * 0.35 * h,
    my = t.y + (Math.sin(t.radians) * t.width) / 2 + Math.cos(t.radians) * 0.35 * h;
  for (let k = 0; k < l.circles.length; k += STRIDE.circles) {
    const r = l.circles[k + 2];
    if (
      r > 0.5 * Math.max(t.width, 0.9 * h) &&
      r < 0.5 * t.width + 2 * h &&
      Math.hypot(l.circles[k] - mx, l.circles[k + 1] - my) < 0.5 * h
    )
      return true;
  }
  return false;
}

/** The rules around a text on the sheet's own axes: below, above, and to the left and right where there are any. */
interface Cell {
  low: number;
  high: number;
  left: number | null;
  right: number | null;
  middle: number;
}

function cellOf(t: PageText, lines: LinesBeside, slack: number): Cell | null {
  const h = t.height;
  const rules = lines
    .rows(t, [-0.2 * h, t.width + 0.2 * h], [-RULE_REACH * h, RULE_REACH * h])
    .filter((r) => r.from <= 0.1 * h && r.to >= t.width - 0.1 * h);
  const low = Math.max(...rules.filter((r) => r.v < 0.1 * h).map((r) => r.v)),
    high = Math.min(...rules.filter((r) => r.v > 0.5 * h).map((r) => r.v));
  if (!Number.isFinite(low) || !Number.isFinite(high) || high - low > HIGHEST_CELL * h) return null;
  const sides = lines
    .rows(t, [-40 * h, t.width + 40 * h], [low, high], true)
    .filter((r) => r.from <= low + SAME_RULE + 2 * slack && r.to >= high - SAME_RULE - 2 * slack);
  const left = Math.max(...sides.filter((r) => r.v < 0.3 * h).map((r) => r.v)),
    right = Math.min(...sides.filter((r) => r.v > t.width - 0.3 * h).map((r) => r.v));
  // Told from the text's own frame into one that all texts of its direction share.
  const u = t.x * Math.cos(t.radians) + t.y * Math.sin(t.radians),
    v = -t.x * Math.sin(t.radians) + t.y * Math.cos(t.radians);
  return {
    low: v + low,
    high: v + high,
    left: Number.isFinite(left) ? u + left : null,
    right: Number.isFinite(right) ? u + right : null,
    middle: u + t.width / 2,
  };
}

/** Cells are looked up by their upper rule in steps of so many sheet points. */
const BAND = 4;

/** Directions that are nearly the same as one: of a scan every text is turned a little otherwise. */
function commonTurns(texts: readonly (PageText | null)[]): number[] {
  const groups: number[][] = [];
  const of = texts.map((t) => {
    if (!t) return null;
    let group = groups.find(
      (g) => Math.abs(Math.sin(g[0] - t.radians)) < SINE && Math.cos(g[0] - t.radians) > 0,
    );
    if (!group) groups.push((group = []));
    group.push(t.radians);
    return group;
  });
  const middles = new Map(groups.map((g) => [g, [...g].sort((a, b) => a - b)[Math.floor(g.length / 2)]]));
  return of.map((g) => (g ? middles.get(g)! : 0));
}

/** Cells that lie in rows and columns with their like. */
function inTables(cells: ReadonlyMap<number, Cell>, turns: readonly number[], within: number): number[] {
  const list = [...cells],
    group = new Map<number, number>(list.map(([i]) => [i, i]));
  const root = (i: number): number => {
    let r = i;
    while (group.get(r) !== r) r = group.get(r)!;
    group.set(i, r);
    return r;
  };
  const near = (a: number | null, b: number | null) =>
    a === null ? b === null : b !== null && Math.abs(a - b) < within;
  const byHigh = new Map<number, [number, Cell][]>();
  for (const e of list) {
    const k = Math.round(e[1].high / BAND),
      known = byHigh.get(k);
    if (known) known.push(e);
    else byHigh.set(k, [e]);
  }
  const at = (v: number) => [-1, 0, 1].flatMap((d) => byHigh.get(Math.round(v / BAND) + d) ?? []);
  for (const [i, c] of list) {
    const alike = (k: number) => k !== i && Math.abs(Math.sin(turns[k] - turns[i])) < SINE;
    // Beside it in its row, or above in its column.
    for (const [k, d] of at(c.high))
      if (
        alike(k) &&
        near(c.high, d.high) &&
        near(c.low, d.low) &&
        (near(c.right, d.left) || (c.right === null && d.left === null))
      )
        group.set(root(i), root(k));
    for (const [k, d] of at(c.high + (c.high - c.low)))
      if (alike(k) && near(d.low, c.high) && near(c.left, d.left) && near(c.right, d.right))
        group.set(root(i), root(k));
  }
  const members = new Map<number, number[]>();
  for (const [i] of list) members.set(root(i), [...(members.get(root(i)) ?? []), i]);
  const count = (values: number[]) => new Set(values.map((v) => Math.round(v))).size;
  return [...members.values()]
    .filter(
      (m) =>
        m.length >= LEAST_CELLS &&
        count(m.map((i) => cells.get(i)!.low)) >= 2 &&
        count(m.map((i) => cells.get(i)!.left ?? cells.get(i)!.middle)) >= 2,
    )
    .flat();
}

/** The base lines of two figures across one line lie this far apart, in heights; their middles are this near to one another. */
const LEAST_APART = 1.05,
  MOST_APART = 2.7,
  MIDDLES = 0.6;

/** Two figures at one line, the number of the lower with that of the upper. */
function pairsAcrossLines(
  texts: readonly (PageText | null)[],
  lines: LinesBeside,
  candidates: ReadonlySet<number>,
): [number, number][] {
  const out: [number, number][] = [];
  for (const above of candidates) {
    const a = texts[above]!,
      h = a.height,
      ux = Math.cos(a.radians),
      uy = Math.sin(a.radians);
    for (const below of candidates) {
      const b = texts[below]!;
      if (
        below === above ||
        Math.abs(b.x - a.x) + Math.abs(b.y - a.y) > 6 * h + a.width + b.width ||
        Math.cos(b.radians - a.radians) < 0.999 ||
        b.height > 1.3 * h ||
        b.height < 0.6 * h
      )
        continue;
      const dx = b.x - a.x,
        dy = b.y - a.y,
        apart = -(-dx * uy + dy * ux) / h,
        shift = dx * ux + dy * uy + b.width / 2 - a.width / 2;
      if (apart < LEAST_APART || apart > MOST_APART || Math.abs(shift) > MIDDLES * h) continue;
      const reach: [number, number] = [Math.min(0, shift), a.width],
        covers = (r: Row) => r.from < a.width / 2 && r.to > a.width / 2;
      const between = lines.rows(a, reach, [-(apart - 0.55) * h, 0.05 * h]).filter(covers);
      // The lower one may belong to a line of its own, beneath it.
      const own = lines.rows(a, reach, [-(apart + 0.6) * h, -(apart - 0.1) * h]).some(covers);
      if (between.length > 0 && !own) out.push([below, above]);
    }
  }
  return out;
}
