import Flatbush from 'flatbush';

/** A row of short strokes that is one dashed line: its ends, and the dash and gap that it repeats, sheet points. */
export interface DashedLine {
  line: [number, number, number, number];
  dash: [number, number];
}

/** Fewer strokes than this are strokes. */
const LEAST_DASHES = 4;
/** Dashes and gaps of one line differ by no more than this, sheet points or share of their length. */
const ALIKE = 0.06,
  ALIKE_SHARE = 0.03;
/** A gap is no longer than this many dashes, and a dash no longer than this, sheet points. */
const LONGEST_GAP = 3,
  LONGEST_DASH = 40;
/** Strokes lie in one line within this, sheet points, and within this angle (sine). */
const OFF_LINE = 0.01,
  SAME_WAY = 2e-3;

/**
 * Finds rows of strokes of equal length in one line with equal gaps. `lone`: 1 for each segment that meets no other. The last
 * dash may be cut short. Returns the rows, and which segments are in none.
 */
export function findDashes(lines: Float64Array, lone: Uint8Array): { dashed: DashedLine[]; left: number[] } {
  const n = lines.length / 4;
  const candidates: number[] = [];
  for (let i = 0; i < n; i++)
    if (lone[i] && length(lines, i) <= LONGEST_DASH && length(lines, i) > 0) candidates.push(i);
  const used = new Uint8Array(n),
    dashed: DashedLine[] = [];
  if (candidates.length >= LEAST_DASHES) {
    const starts = new Flatbush(candidates.length);
    // Every stroke is looked at in the direction in which it leads to the right, or upwards.
    const ends = candidates.map((i) => forward(lines, i));
    for (const [x, y] of ends) starts.add(x, y, x, y);
    starts.finish();
    const next = candidates.map((_, c) => follower(ends, starts, c));
    const isNext = new Uint8Array(candidates.length);
    for (const c of next) if (c >= 0) isNext[c] = 1;
    for (let c = 0; c < candidates.length; c++) {
      if (isNext[c] || next[c] < 0) continue;
      let row = [c];
      for (let at = next[c]; at >= 0 && !used[candidates[at]]; at = next[at]) {
        if (row.length >= 2 && !alike(ends, row, at)) {
          take(row);
          row = [];
        }
        row.push(at);
      }
      take(row);
    }
    function take(row: readonly number[]): void {
      if (row.length < LEAST_DASHES || row.some((r) => used[candidates[r]])) return;
      const first = ends[row[0]],
        last = ends[row[row.length - 1]];
      const dash = size(ends[row[1]]),
        gap = Math.hypot(ends[row[2]][0] - ends[row[1]][2], ends[row[2]][1] - ends[row[1]][3]);
      // The row repeats from its beginning: a first dash that was cut would shift all others.
      if (Math.abs(size(first) - dash) > allowed(dash)) return take(row.slice(1));
      for (const r of row) used[candidates[r]] = 1;
      dashed.push({ line: [first[0], first[1], last[2], last[3]], dash: [dash, gap] });
    }
  }
  return { dashed, left: Array.from({ length: n }, (_, i) => i).filter((i) => !used[i]) };
}

type Ends = readonly [number, number, number, number];
const size = (e: Ends) => Math.hypot(e[2] - e[0], e[3] - e[1]);
const allowed = (of: number) => Math.max(ALIKE, ALIKE_SHARE * of);
const length = (lines: Float64Array, i: number) =>
  Math.hypot(lines[4 * i + 2] - lines[4 * i], lines[4 * i + 3] - lines[4 * i + 1]);

function forward(lines: Float64Array, i: number): Ends {
  const [x0, y0, x1, y1] = lines.subarray(4 * i, 4 * i + 4);
  return x1 > x0 || (x1 === x0 && y1 > y0) ? [x0, y0, x1, y1] : [x1, y1, x0, y0];
}

/** The nearest stroke that goes on in the line of another; -1 for none. */
function follower(ends: readonly Ends[], starts: Flatbush, c: number): number {
  const e = ends[c],
    l = size(e),
    ux = (e[2] - e[0]) / l,
    uy = (e[3] - e[1]) / l,
    reach = LONGEST_GAP * Math.max(l, 1);
  let best = -1,
    nearest = Infinity;
  for (const o of starts.search(
    Math.min(e[2], e[2] + reach * ux) - 0.1,
    Math.min(e[3], e[3] + reach * uy) - 0.1,
    Math.max(e[2], e[2] + reach * ux) + 0.1,
    Math.max(e[3], e[3] + reach * uy) + 0.1,
  )) {
    if (o === c) continue;
    const f = ends[o],
      k = size(f),
      along = (f[0] - e[2]) * ux + (f[1] - e[3]) * uy;
    if (along <= 0 || along > reach || along >= nearest) continue;
    const off = (x: number, y: number) => Math.abs((x - e[0]) * uy - (y - e[1]) * ux);
    if (
      off(f[0], f[1]) > OFF_LINE ||
      off(f[2], f[3]) > OFF_LINE ||
      Math.abs((f[2] - f[0]) * uy - (f[3] - f[1]) * ux) > SAME_WAY * k
    )
      continue;
    [best, nearest] = [o, along];
  }
  return best;
}

/** Does a stroke go on with a row as it has been: the same dash before it, the same gap? */
function alike(ends: readonly Ends[], row: readonly number[], next: number): boolean {
  const gap = (a: number, b: number) => Math.hypot(ends[b][0] - ends[a][2], ends[b][1] - ends[a][3]);
  const before = row[row.length - 1],
    usual = row.length > 2 ? gap(row[1], row[2]) : gap(row[0], row[1]),
    dash = size(ends[row.length > 1 ? row[1] : row[0]]);
  return (
    Math.abs(gap(before, next) - usual) <= allowed(usual) &&
    Math.abs(size(ends[before]) - dash) <= allowed(dash) &&
    size(ends[next]) <= dash + allowed(dash)
  );
}
