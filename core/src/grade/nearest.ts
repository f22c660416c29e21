import Flatbush from 'flatbush';
import type { Line4 } from '../geometry/index.ts';
import type { Stretch } from './types.ts';

/** Sine of the angle within which lines run beside one another: a wall that is traced askew is still held against its line. */
const BESIDE = 0.2;
/** Long lines are looked along in parts, so that one across the sheet does not ask for all of it, millimetres. */
const LOOK = 1500;
/** Differences below this are none, millimetres. */
const NOTHING = 1e-9;

/** A line beside another: over which part of it, and its distances at both ends, with their side as sign. */
interface Beside {
  from: number;
  to: number;
  at: number;
  slope: number;
}

/** Straight lines to be held against, found by where they lie. */
export class LinesBeside {
  private readonly index: Flatbush | null;

  constructor(private readonly lines: Float64Array) {
    this.index = lines.length === 0 ? null : new Flatbush(lines.length / 4);
    for (let i = 0; i < lines.length; i += 4)
      this.index!.add(
        Math.min(lines[i], lines[i + 2]),
        Math.min(lines[i + 1], lines[i + 3]),
        Math.max(lines[i], lines[i + 2]),
        Math.max(lines[i + 1], lines[i + 3]),
      );
    this.index?.finish();
  }

  /** The parts of a line beside which one lies within reach. */
  beside([x0, y0, x1, y1]: Line4, reach: number): Beside[] {
    const length = Math.hypot(x1 - x0, y1 - y0),
      ux = (x1 - x0) / length,
      uy = (y1 - y0) / length,
      found = new Set<number>(),
      parts = Math.max(1, Math.ceil(length / LOOK));
    for (let k = 0; k < parts; k++) {
      const [a, b] = [(length * k) / parts, (length * (k + 1)) / parts],
        [px, py, qx, qy] = [x0 + a * ux, y0 + a * uy, x0 + b * ux, y0 + b * uy];
      for (const i of this.index?.search(
        Math.min(px, qx) - reach,
        Math.min(py, qy) - reach,
        Math.max(px, qx) + reach,
        Math.max(py, qy) + reach,
      ) ?? [])
        found.add(i);
    }
    const out: Beside[] = [];
    for (const i of found) {
      const [px, py, qx, qy] = this.lines.subarray(4 * i, 4 * i + 4),
        long = Math.hypot(qx - px, qy - py);
      if (long === 0 || Math.abs(ux * (qy - py) - uy * (qx - px)) > BESIDE * long) continue;
      const along = [(px - x0) * ux + (py - y0) * uy, (qx - x0) * ux + (qy - y0) * uy],
        off = [(py - y0) * ux - (px - x0) * uy, (qy - y0) * ux - (qx - x0) * uy],
        [s, e] = along[0] < along[1] ? [0, 1] : [1, 0],
        slope = (off[e] - off[s]) / (along[e] - along[s]),
        at = off[s] - slope * along[s],
        within = withinReach(Math.max(0, along[s]), Math.min(length, along[e]), at, slope, reach);
      if (within) out.push({ from: within[0], to: within[1], at, slope });
    }
    return out;
  }
}

/** Where |at + slope t| stays within reach, of a part. */
function withinReach(
  from: number,
  to: number,
  at: number,
  slope: number,
  reach: number,
): [number, number] | null {
  if (Math.abs(slope) <= 1e-12) return Math.abs(at) <= reach && to - from > NOTHING ? [from, to] : null;
  const [a, b] = [(-reach - at) / slope, (reach - at) / slope],
    begins = Math.max(from, Math.min(a, b)),
    ends = Math.min(to, Math.max(a, b));
  return ends - begins > NOTHING ? [begins, ends] : null;
}

/** A part of a line, and what lies nearest to it there. */
interface Part {
  from: number;
  to: number;
  /** Its side as sign: `at` and `slope` over the length of the line. Null: nothing lies there. */
  beside: Pick<Beside, 'at' | 'slope'> | null;
}

/**
 * How far a line lies from the nearest of others that run beside it, over all of its length: the lower edge of all distances, which is
 * made of straight parts. Millimetres.
 */
export function nearestAlong(line: Line4, others: LinesBeside, reach: number): Stretch[] {
  const out: Stretch[] = [];
  for (const { from, to, beside } of nearestParts(line, others, reach))
    add(out, { from, to, near: beside && [distance(beside, from), distance(beside, to)] });
  return out;
}

/** What lies nearest to a line within reach: the parts of those others, as lines. */
export function linesNearest(line: Line4, others: LinesBeside, reach: number): Line4[] {
  const [x0, y0, x1, y1] = line,
    length = Math.hypot(x1 - x0, y1 - y0),
    ux = (x1 - x0) / length,
    uy = (y1 - y0) / length;
  return nearestParts(line, others, reach).flatMap(({ from, to, beside }): Line4[] => {
    if (!beside) return [];
    const at = (t: number) => {
      const off = beside.at + beside.slope * t;
      return [x0 + t * ux - off * uy, y0 + t * uy + off * ux] as const;
    };
    return [[...at(from), ...at(to)]];
  });
}

function nearestParts(line: Line4, others: LinesBeside, reach: number): Part[] {
  const length = Math.hypot(line[2] - line[0], line[3] - line[1]);
  if (!(length > 0)) return [];
  const beside = others.beside(line, reach),
    begins = [...beside].sort((a, b) => a.from - b.from),
    cuts = [...new Set([0, length, ...beside.flatMap((b) => [b.from, b.to])])].sort((a, b) => a - b);
  const out: Part[] = [];
  let active: Beside[] = [],
    next = 0;
  for (let i = 1; i < cuts.length; i++) {
    const [from, to] = [cuts[i - 1], cuts[i]];
    active = active.filter((b) => b.to >= to);
    while (next < begins.length && begins[next].from <= from) {
      if (begins[next].to >= to) active.push(begins[next]);
      next++;
    }
    if (to - from <= NOTHING) continue;
    if (active.length === 0) out.push({ from, to, beside: null });
    else lowerEdge(active, from, to, out);
  }
  return out;
}

const distance = (b: Pick<Beside, 'at' | 'slope'>, t: number): number => Math.abs(b.at + b.slope * t);

/** The least of some distances from `from` to `to`, over which all of them are there. */
function lowerEdge(active: readonly Beside[], from: number, to: number, out: Part[]): void {
  let t = from;
  while (to - t > NOTHING) {
    // The lowest just behind t: of those that are equal there the one that is lower at the end of what follows.
    const behind = Math.min(to, t + Math.max(1e-6, (to - from) * 1e-9));
    let low = active[0];
    for (const b of active) if (distance(b, behind) < distance(low, behind)) low = b;
    let end = to;
    const zero = low.slope === 0 ? NaN : -low.at / low.slope;
    if (zero > behind && zero < end) end = zero;
    for (const b of active) {
      if (b === low) continue;
      for (const sign of [1, -1]) {
        const slope = low.slope - sign * b.slope;
        if (Math.abs(slope) < 1e-15) continue;
        const cross = -(low.at - sign * b.at) / slope;
        if (cross > behind && cross < end) end = cross;
      }
    }
    out.push({ from: t, to: end, beside: low });
    t = end;
  }
}

/** Adds a stretch, as part of the last where that only goes on. */
function add(out: Stretch[], s: Stretch): void {
  const last = out.at(-1);
  if (last && last.near === null && s.near === null) last.to = s.to;
  else if (last?.near && s.near && goesOn(last, s)) {
    last.near = [last.near[0], s.near[1]];
    last.to = s.to;
  } else out.push(s);
}

/** Do distances go on from one stretch to the next as if there were one? */
function goesOn(a: Stretch, b: Stretch): boolean {
  const [a0, a1] = a.near!,
    [b0, b1] = b.near!,
    slope = (b1 - a0) / (b.to - a.from);
  return Math.abs(a1 - b0) < SAME && Math.abs(a0 + slope * (a.to - a.from) - a1) < SAME;
}
/** Distances are the same within this, millimetres. */
const SAME = 1e-6;

/**
 * Closes gaps between parts beside which something lies: lines of a sheet are drawn in pieces. Any that are shorter than `gap`, and
 * those of dashes, which go on as they ended, up to `dash`.
 */
export function bridged(stretches: readonly Stretch[], gap: number, dash: number): Stretch[] {
  const out: Stretch[] = [];
  stretches.forEach((s, i) => {
    const before = stretches[i - 1]?.near?.[1],
      after = stretches[i + 1]?.near?.[0],
      length = s.to - s.from,
      isDash = before !== undefined && after !== undefined && Math.abs(before - after) < SAME_DASH;
    if (s.near !== null || length > (isDash ? dash : gap) || (before === undefined && after === undefined))
      out.push(s);
    else add(out, { ...s, near: [before ?? after!, after ?? before!] });
  });
  return out;
}
/** Dashes of one line lie as far off as one another within this, millimetres. */
const SAME_DASH = 0.5;
