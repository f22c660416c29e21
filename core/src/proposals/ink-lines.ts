import type { Stroke } from './strokes.ts';

/** A stroke with its length and the way in which it runs, from 0 to below a half turn. */
export interface Angled {
  stroke: Stroke;
  length: number;
  angle: number;
}

/** Ink runs one way within this, radians: the more surely the longer it is, so that the cube of its length tells the way. */
const INK_WAY = 0.006,
  /** Ways of ink with less drawn than this share are none. */
  LEAST_OF_INK = 0.01,
  MOST_OF_INK = 40,
  /** Ink strays from its way by no more than this, however short it is. */
  MOST_ASTRAY = 0.06;

/** Strokes read from ink, as running the ways that its long ones run: short ones tell their way badly. `slack`: how far a place may lie off, points. */
export function straightened(angled: readonly Angled[], slack: number): Angled[] {
  const all = angled.reduce((sum, s) => sum + s.length, 0),
    mains: number[] = [],
    left = [...angled].sort((a, b) => b.length - a.length).slice(0, LONGEST_OF_INK);
  while (mains.length < MOST_OF_INK && left.length > 0) {
    const sorted = [...left].sort((a, b) => a.angle - b.angle),
      // What runs nearly level may be told from either end of the half turn.
      round = sorted.filter((s) => s.angle < INK_WAY).map((s) => ({ ...s, angle: s.angle + Math.PI })),
      by = [...sorted, ...round];
    let best: Angled[] = [],
      most = 0,
      sum = 0;
    for (let i = 0, j = 0; i < by.length; i++) {
      sum += by[i].length;
      while (by[i].angle - by[j].angle > INK_WAY) sum -= by[j++].length;
      if (sum > most) [most, best] = [sum, by.slice(j, i + 1)];
    }
    if (most < LEAST_OF_INK * all) break;
    const weight = best.reduce((x, s) => x + s.length ** 3, 0),
      angle = best.reduce((x, s) => x + s.length ** 3 * s.angle, 0) / weight;
    mains.push(angle % Math.PI);
    for (let i = left.length - 1; i >= 0; i--)
      if (turnBetween(left[i].angle, angle) <= 2 * INK_WAY) left.splice(i, 1);
  }
  return angled.flatMap((s) => {
    const reach = Math.min(MOST_ASTRAY, Math.max(INK_WAY, slack / s.length)),
      [main] = mains
        .map((angle) => ({ angle, off: turnBetween(angle, s.angle) }))
        .filter((m) => m.off <= reach)
        .sort((a, b) => a.off - b.off);
    return main ? [{ ...s, angle: main.angle }] : [];
  });
}
/** So many of the longest tell the ways. */
const LONGEST_OF_INK = 4000;

/** Dashes lie no farther apart than this and are on the whole no longer, points; so many make a row. */
const DASH = { gap: 9, length: 32, row: 5, least: 0.25 };

/** Is a line of ink all in short pieces, over a long way? */
export function isDashed(drawn: readonly [number, number][]): boolean {
  const lengths = drawn.map(([a, b]) => b - a).sort((a, b) => a - b);
  return (
    lengths.length > DASH.row &&
    lengths[lengths.length >> 1] <= DASH.length &&
    lengths.at(-1)! <= 2 * DASH.length
  );
}

/** What of a line of ink is no row of dashes: a file tells its dashed pens, a scan shows single strokes. */
export function undashed(drawn: readonly [number, number][]): [number, number][] {
  const rows: [number, number][][] = [];
  for (const s of drawn) {
    const last = rows.at(-1)?.at(-1);
    if (last && s[0] - last[1] <= DASH.gap) rows.at(-1)!.push(s);
    else rows.push([s]);
  }
  return rows.flatMap((row) => {
    if (row.length < DASH.row) return row;
    const lengths = row.map(([a, b]) => b - a).sort((a, b) => a - b),
      filled = lengths.reduce((x, y) => x + y, 0) / (row.at(-1)![1] - row[0][0]),
      isRow = lengths[lengths.length >> 1] <= DASH.length && filled >= DASH.least;
    // A line along which dashes go on stays as far as it is longer than they are.
    return isRow ? row.filter(([a, b]) => b - a > 3 * DASH.length) : row;
  });
}

/** The turn between two ways, 0 to a quarter turn. */
function turnBetween(a: number, b: number): number {
  const d = Math.abs(a - b) % Math.PI;
  return Math.min(d, Math.PI - d);
}
