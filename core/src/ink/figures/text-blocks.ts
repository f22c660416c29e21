import type { Component, Components } from '../components.ts';

/** Glyphs in a row: what belongs to them (components by number), the middle, the direction of reading (pixels, y down, counter-clockwise from the right), and the extents about the middle. */
export interface TextBlock {
  members: number[];
  x: number;
  y: number;
  radians: number;
  length: number;
  height: number;
  /** How many glyphs stand on it, marks and signs not counted. */ glyphs: number;
}

/** Heights of glyphs that are looked at, millimetres of paper; several that run into one another may be this long. */
const LOWEST = 0.9,
  HIGHEST = 9,
  LONGEST = 16;
/** Fewer pixels cannot be told apart. */
const LOWEST_PIXELS = 6;
/** Glyphs of one word are about as high, and their middles are at most this many heights apart. */
const LEAST_RATIO = 0.5,
  NEXT = 1.25;
/** Words of one text. */
const WORD_GAP = 1.15,
  SAME_TURN = 0.16,
  SAME_LINE = 0.3,
  LEAST_WORD_RATIO = 0.6;
/** Rows are looked through from left to right: from here on none can follow any more, pixels. */
const MOST_APART = 400;
/** A row's direction is taken from the lines of the sheet where it is this near to one, radians. */
const SNAP_TURN = 0.12;
const MOST_GLYPHS = 24;
/** Letters are at most this much higher than the lowest of them; what is lower still is a mark. */
const MARK_RATIO = 1.5;

interface Glyph {
  component: number;
  x: number;
  y: number;
  width: number;
  height: number;
  /** Height of the letters: the longer side, or the shorter where several run into one another. */ size: number;
  /** About how many letters it holds. */ letters: number;
}

/** Wider than this, in its own height, a component is several letters that touch; higher than that, in its width, several that lie. */
const SEVERAL_WIDE = 1.15,
  SEVERAL_HIGH = 2.3;
const SLIM = 0.3;
/** A letter with the room around it, in heights. */
const LETTER = 0.68;

/**
 * Finds what may be texts: components of a glyph's size in rows of any direction. `perMillimetre`: pixels of
 * the raster per millimetre of paper; `directions`: those of the sheet's lines, radians, by which short rows are turned.
 */
export function textBlocks(
  whole: Components,
  freed: Components,
  perMillimetre: number,
  directions: readonly number[],
): { components: Components; blocks: TextBlock[] } {
  const components = together(whole, freed);
  const { list } = components;
  const glyphs: Glyph[] = [],
    marks: Glyph[] = [];
  const lowest = Math.max(LOWEST_PIXELS, LOWEST * perMillimetre);
  const loose: Glyph[] = [];
  list.forEach((c, component) => {
    const width = c.x1 - c.x0,
      height = c.y1 - c.y0,
      long = Math.max(width, height),
      short = Math.min(width, height);
    if (long > LONGEST * perMillimetre || short > HIGHEST * perMillimetre) return;
    const several = short >= lowest && (width > SEVERAL_WIDE * height || height > SEVERAL_HIGH * width);
    const glyph: Glyph = {
      component,
      x: (c.x0 + c.x1) / 2,
      y: (c.y0 + c.y1) / 2,
      width,
      height,
      size: several ? short : long,
      letters: several ? Math.max(2, Math.round(long / (LETTER * short))) : 1,
    };
    if (component >= whole.list.length) loose.push(glyph);
    else if (long < lowest) marks.push(glyph);
    else if (c.pixels >= 0.06 * width * height) glyphs.push(glyph);
  });
  const letters = demoted(glyphs, marks);
  const rows = joinWords(
    rowsOf(letters).map((row) => blockOf(row, directions)),
    marks,
    directions,
  );
  const texts = withTouching(
    rows.filter((r) => r.row.length <= MOST_GLYPHS),
    loose,
  );
  return { components, blocks: withMarks(texts, marks, list).map(({ block }) => block) };
}

/** Two sets of components as one, the second numbered on from the first. */
function together(a: Components, b: Components): Components {
  const runs = new Int32Array(a.runs.length + b.runs.length);
  runs.set(a.runs);
  runs.set(b.runs, a.runs.length);
  const first = a.runs.length / 3;
  return { runs, list: [...a.list, ...b.list.map((c) => ({ ...c, runs: c.runs.map((r) => r + first) }))] };
}

/** A letter at the end of a row that touched a line: as high as the row, and where the next letter would stand. */
function withTouching(rows: readonly Row[], loose: readonly Glyph[]): Row[] {
  if (loose.length === 0) return [...rows];
  const near = new Near(loose, Math.max(8, ...rows.map((r) => r.block.height)));
  return rows.map(({ row, block }) => {
    const ux = Math.cos(block.radians),
      uy = -Math.sin(block.radians),
      h = block.height;
    const own = near
      .within(block.x, block.y, block.length / 2 + 1.2 * h)
      .map((i) => loose[i])
      .filter((g) => {
        const dx = g.x - block.x,
          dy = g.y - block.y,
          along = Math.abs(dx * ux + dy * uy) - block.length / 2;
        const across = Math.abs(uy) * g.width + Math.abs(ux) * g.height,
          length = Math.abs(ux) * g.width + Math.abs(uy) * g.height;
        return (
          along > 0 &&
          along < 0.35 * h + length / 2 &&
          Math.abs(dx * uy - dy * ux) < 0.2 * h &&
          across > 0.8 * h &&
          across < 1.25 * h &&
          length < 0.9 * h
        );
      });
    return own.length === 0 ? { row, block } : extents([...row, ...own], block.radians);
  });
}

/** Primes, dashes and points of a large writing are as large as letters of a small one: what stands beside something much larger is a mark. Returns the letters, adds to the marks. */
function demoted(glyphs: readonly Glyph[], marks: Glyph[]): Glyph[] {
  const near = new Near(glyphs, Math.max(1, ...glyphs.map((g) => g.size)));
  return glyphs.filter((g) => {
    const long = Math.max(g.width, g.height);
    const beside = near.within(g.x, g.y, 4 * long).some((i) => {
      const k = glyphs[i],
        dx = Math.abs(k.x - g.x),
        dy = Math.abs(k.y - g.y);
      const [own, other, gap] =
        dx > dy
          ? [g.height, k.height, dx - (g.width + k.width) / 2]
          : [g.width, k.width, dy - (g.height + k.height) / 2];
      return other > MARK_RATIO * own && long < other && gap < 0.5 * other && Math.min(dx, dy) < 0.6 * other;
    });
    if (beside) marks.push(g);
    return !beside;
  });
}

/** A grid by which neighbours are found. */
class Near {
  private readonly cells = new Map<string, number[]>();
  constructor(
    private readonly list: readonly Glyph[],
    private readonly cell: number,
  ) {
    list.forEach((g, i) => {
      const key = `${Math.floor(g.x / cell)},${Math.floor(g.y / cell)}`;
      const known = this.cells.get(key);
      if (known) known.push(i);
      else this.cells.set(key, [i]);
    });
  }

  within(x: number, y: number, r: number): number[] {
    const out: number[] = [];
    for (let v = Math.floor((y - r) / this.cell); v <= Math.floor((y + r) / this.cell); v++) {
      for (let u = Math.floor((x - r) / this.cell); u <= Math.floor((x + r) / this.cell); u++) {
        for (const i of this.cells.get(`${u},${v}`) ?? [])
          if (Math.hypot(this.list[i].x - x, this.list[i].y - y) <= r) out.push(i);
      }
    }
    return out;
  }
}

/** The gap between two boxes in heights, and their middles' distance beyond what touching letters make of it; null where they are of different heights across the row that they would make. */
function apart(a: Glyph, b: Glyph): { gap: number; distance: number } | null {
  const gapX = Math.max(
    0,
    Math.max(a.x - a.width / 2, b.x - b.width / 2) - Math.min(a.x + a.width / 2, b.x + b.width / 2),
  );
  const gapY = Math.max(
    0,
    Math.max(a.y - a.height / 2, b.y - b.height / 2) - Math.min(a.y + a.height / 2, b.y + b.height / 2),
  );
  const beside = Math.abs(a.x - b.x) * (a.height + b.height) > Math.abs(a.y - b.y) * (a.width + b.width);
  const [p, q] = beside ? [a.height, b.height] : [a.width, b.width];
  const [u, v] = beside ? [a.width, b.width] : [a.height, b.height];
  // What lies along the row and is slim is a dash, no letter.
  const slim = p < SLIM * (u / a.letters) || q < SLIM * (v / b.letters);
  const size = Math.max(p, q);
  if (slim || Math.min(p, q) < LEAST_RATIO * size) return null;
  return {
    gap: Math.hypot(gapX, gapY) / size,
    distance:
      (Math.hypot(a.x - b.x, a.y - b.y) - Math.max(0, (u - size) / 2) - Math.max(0, (v - size) / 2)) / size,
  };
}

/** Each glyph is joined to its nearest neighbour and to the nearest on the other side of it. */
function rowsOf(glyphs: readonly Glyph[]): Glyph[][] {
  const parent = glyphs.map((_, i) => i);
  const find = (i: number): number => (parent[i] === i ? i : (parent[i] = find(parent[i])));
  const largest = Math.max(1, ...glyphs.map((g) => g.size));
  const near = new Near(glyphs, largest);
  glyphs.forEach((g, i) => {
    const beside = near
      .within(g.x, g.y, 2.5 * Math.max(g.width, g.height))
      .flatMap((k) => {
        const between = k === i ? null : apart(g, glyphs[k]);
        return between && between.gap < 0.55 && (between.distance < NEXT || between.gap < 0.35)
          ? [{ k, ...between }]
          : [];
      })
      .sort((a, b) => a.gap + 0.5 * a.distance - b.gap - 0.5 * b.distance);
    if (beside.length === 0) return;
    const first = beside[0];
    const turn = (k: number) => Math.atan2(glyphs[k].y - g.y, glyphs[k].x - g.x);
    const second = beside.slice(1).find(({ k }) => Math.cos(turn(k) - turn(first.k)) < -0.9);
    for (const next of [first, second]) if (next) parent[find(i)] = find(next.k);
  });
  const rows = new Map<number, Glyph[]>();
  glyphs.forEach((g, i) => rows.set(find(i), [...(rows.get(find(i)) ?? []), g]));
  return [...rows.values()];
}

const lettersOf = (row: readonly Glyph[]) => row.reduce((sum, g) => sum + g.letters, 0);

interface Row {
  row: Glyph[];
  block: TextBlock;
}

/** Direction and extents of a row. A single glyph is taken to stand upright. */
function blockOf(row: readonly Glyph[], directions: readonly number[]): Row {
  const mx = row.reduce((s, g) => s + g.x, 0) / row.length,
    my = row.reduce((s, g) => s + g.y, 0) / row.length;
  let sxx = 0,
    sxy = 0,
    syy = 0;
  for (const g of row) {
    sxx += (g.x - mx) ** 2;
    sxy += (g.x - mx) * (g.y - my);
    syy += (g.y - my) ** 2;
  }
  // Letters that touch lie along the longer side, a letter alone stands upright.
  const lone = row[0].letters > 1 && row[0].height > row[0].width ? Math.PI / 2 : 0;
  const raw = row.length === 1 ? lone : 0.5 * Math.atan2(2 * sxy, sxx - syy);
  return extents(
    [...row],
    readable(-snapped(raw, directions, lettersOf(row) < 4 ? 2 * SNAP_TURN : SNAP_TURN)),
  );
}

/** The direction among those of the sheet's lines, or square to them, that is near; the row's own where none is. */
function snapped(radians: number, directions: readonly number[], within: number): number {
  let best = radians,
    least = within;
  for (const d of directions) {
    for (const candidate of [-d, -d + Math.PI / 2]) {
      const off = Math.abs(Math.atan(Math.tan(radians - candidate)));
      if (off < least) {
        least = off;
        best = candidate;
      }
    }
  }
  return best;
}

/** Texts are read from the foot or from the right of the sheet: counter-clockwise from the right, above -90 and up to 90 degrees. */
export function readable(radians: number): number {
  let turn = Math.atan(Math.tan(radians));
  if (turn < -Math.PI / 2 + 0.1) turn += Math.PI;
  return turn;
}

function extents(row: Glyph[], radians: number): Row {
  const ux = Math.cos(radians),
    uy = -Math.sin(radians);
  let a0 = Infinity,
    a1 = -Infinity,
    v0 = Infinity,
    v1 = -Infinity;
  const heights: number[] = [];
  for (const g of row) {
    // A turned box holds its glyph loosely: its own size along and across the row is taken.
    const square = Math.abs(Math.abs(ux) - Math.abs(uy)) > 0.9;
    const along = square
      ? (Math.abs(ux) * g.width + Math.abs(uy) * g.height) / 2
      : Math.min(g.width, g.height) / 2;
    const across = square ? (Math.abs(uy) * g.width + Math.abs(ux) * g.height) / 2 : g.size / 2;
    const a = g.x * ux + g.y * uy,
      v = g.x * uy - g.y * ux;
    a0 = Math.min(a0, a - along);
    a1 = Math.max(a1, a + along);
    v0 = Math.min(v0, v - across);
    v1 = Math.max(v1, v + across);
    heights.push(2 * across);
  }
  const a = (a0 + a1) / 2,
    v = (v0 + v1) / 2;
  const height = heights.sort((p, q) => p - q)[Math.floor(0.7 * (heights.length - 1))];
  const across = Math.max(height, v1 - v0 < 1.6 * height ? v1 - v0 : height);
  return {
    row,
    block: {
      members: row.map((g) => g.component),
      x: a * ux + v * uy,
      y: a * uy - v * ux,
      radians,
      length: a1 - a0,
      height: across,
      glyphs:
        row.length > 1 ? Math.max(row.length, Math.round((a1 - a0) / (LETTER * across))) : row[0].letters,
    },
  };
}

/** Words that follow one another on a line are one text. */
function joinWords(rows: readonly Row[], marks: readonly Glyph[], directions: readonly number[]): Row[] {
  const near = new Near(marks, Math.max(8, ...rows.map((r) => r.block.height)));
  /** Do marks stand between two letters, as in 6'-0"? */
  const marked = (a: TextBlock, b: TextBlock) =>
    near.within((a.x + b.x) / 2, (a.y + b.y) / 2, 0.8 * Math.max(a.height, b.height)).length > 0;
  const left = [...rows].sort((a, b) => a.block.x - b.block.x);
  for (let changed = true; changed;) {
    changed = false;
    for (let i = 0; i < left.length; i++) {
      for (let k = i + 1; k < left.length; k++) {
        const a = left[i],
          b = left[k];
        const far =
          (a.block.length + b.block.length) / 2 + 2 * WORD_GAP * Math.max(a.block.height, b.block.height);
        if (Math.abs(a.block.x - b.block.x) > far || Math.abs(a.block.y - b.block.y) > far) {
          if (b.block.x - a.block.x > far + MOST_APART) break;
          continue;
        }
        const turn = commonTurn(a, b, marked, directions);
        if (turn === null || !follow(extents(a.row, turn).block, extents(b.row, turn).block)) continue;
        left[i] = blockOf([...a.row, ...b.row], directions);
        left.splice(k, 1);
        changed = true;
        // The longer row may reach what the shorter did not.
        k = i;
      }
    }
  }
  return left;
}

/** The direction that two rows would have as one: that of the longer; a component alone has none of its own, and two of them need marks between. */
function commonTurn(
  a: Row,
  b: Row,
  marked: (a: TextBlock, b: TextBlock) => boolean,
  directions: readonly number[],
): number | null {
  const [long, short] = a.row.length >= b.row.length ? [a, b] : [b, a];
  if (long.row.length > 1)
    return short.row.length > 1 && Math.abs(Math.sin(a.block.radians - b.block.radians)) > SAME_TURN
      ? null
      : long.block.radians;
  return marked(a.block, b.block)
    ? readable(-snapped(Math.atan2(b.block.y - a.block.y, b.block.x - a.block.x), directions, 2 * SNAP_TURN))
    : null;
}

/** Do two rows of one direction stand on one line, as high as one another, a word's gap apart? */
function follow(a: TextBlock, b: TextBlock): boolean {
  const h = Math.max(a.height, b.height),
    ux = Math.cos(a.radians),
    uy = -Math.sin(a.radians),
    dx = b.x - a.x,
    dy = b.y - a.y;
  return (
    Math.min(a.height, b.height) >= LEAST_WORD_RATIO * h &&
    Math.abs(dx * uy - dy * ux) <= SAME_LINE * h &&
    Math.abs(dx * ux + dy * uy) <= (a.length + b.length) / 2 + WORD_GAP * h
  );
}

/** Points, primes, dashes and the like belong to the row that they stand in. */
function withMarks(rows: readonly Row[], marks: readonly Glyph[], list: readonly Component[]): Row[] {
  if (rows.length === 0) return [];
  const near = new Near(marks, Math.max(8, ...rows.map((r) => r.block.height)));
  return rows.map(({ row, block }) => {
    const ux = Math.cos(block.radians),
      uy = -Math.sin(block.radians),
      h = block.height;
    const own = near
      .within(block.x, block.y, block.length / 2 + h)
      .map((i) => marks[i])
      .filter((m) => {
        const dx = m.x - block.x,
          dy = m.y - block.y;
        return (
          Math.abs(dx * ux + dy * uy) <= block.length / 2 + 0.5 * h &&
          Math.abs(dx * uy - dy * ux) <= 0.7 * h &&
          list[m.component].pixels >= 3
        );
      });
    const along = own.flatMap((m) => {
      const t = (m.x - block.x) * ux + (m.y - block.y) * uy,
        r = Math.max(m.width, m.height) / 2;
      return [t - r, t + r];
    });
    const from = Math.min(-block.length / 2, ...along),
      to = Math.max(block.length / 2, ...along),
      shift = (from + to) / 2;
    return {
      row,
      block: {
        ...block,
        members: [...block.members, ...own.map((m) => m.component)],
        x: block.x + shift * ux,
        y: block.y + shift * uy,
        length: to - from,
      },
    };
  });
}
