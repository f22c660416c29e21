import { TAU } from '../../geometry/index.ts';
import { inkMask } from '../ink-mask.ts';
import { sheetFromPixel, type Raster } from '../raster.ts';
import { fitCircle, type FittedCircle, type Weighted } from './fit-circle.ts';

/**
 * What the ink under the cursor is: a straight stroke or an arc (counter-clockwise from `start` to `end`, radians; a circle where
 * that is a full turn). On the sheet, points; `stray`: how far the middle of the ink strays from it (root mean square).
 */
export type InkFit = { stray: number } & (
  | { kind: 'line'; from: [number, number]; to: [number, number] }
  | { kind: 'arc'; cx: number; cy: number; r: number; start: number; end: number }
);

/** Tries at guessing a stroke from a few of its pixels. */
const TRIES = 260;
/** Pixels that guesses are judged by, at most. */
const MOST_JUDGED = 2600;
/** So many pixels nearest to the cursor tell how wide the stroke is. */
const MOST_FOR_WIDTH = 40;
/** A stroke ends where the ink is away for more than this, pixels; dashes and noise go on. */
const GAP = 5;
/** It goes on where there is at least this share of the ink that it has beside the cursor, within so many pixels of it. */
/** Less than this darker than the paper, in shares of it, is paper. */
const LEAST_DARK = 0.06;
const LEAST_SHARE = 0.35,
  BESIDE = 10;
/** Shorter strokes than this many times their width, and than this many pixels, are dots and letters. */
const LEAST_WIDTHS = 3,
  LEAST_LENGTH = 9;
/** An arc turns by this at least, radians, and bends out of its chord by so many pixels. */
const LEAST_SWEEP = 0.3,
  LEAST_RISE = 1;
/** The middles of an arc's ink stray by less than this, pixels, and a share of its width. */
const MOST_STRAY = 0.4,
  STRAY_SHARE = 0.1;
/** Strokes that meet more flatly than this (sine) make no corner. */
const LEAST_CORNER = 0.15;
/** The other stroke of a corner has ink along this share of itself, and is longer than a speck, pixels. */
const CORNER_SHARE = 0.85,
  CORNER_LENGTH = 14;
/** And so much ink across it, in shares of what the first one has. */
const CORNER_WEIGHT = 0.5;

/** A run of ink along a line or round a circle: where it begins and ends along it, in pixels, and the middles of its ink. */
interface Run {
  from: number;
  to: number;
  middles: { at: number; off: number; weight: number }[];
}

/** The same guesses for the same ink, so that a fit does not change while the cursor rests. */
function chance(): () => number {
  let state = 0x9e3779b9;
  return () => {
    state = (Math.imul(state ^ (state >>> 15), 0x2c1b3c6d) + 0x6d2b79f5) | 0;
    return ((state ^ (state >>> 13)) >>> 0) / 2 ** 32;
  };
}

/** Fits strokes to the ink around a pixel of a raster (y down), at most `reach` pixels away: the one meant first, then one that makes a corner with it. Empty where there is no ink. */
export function fitInkAt(raster: Raster, x: number, y: number, reach: number): InkFit[] {
  const mask = inkMask(raster),
    { ink, soft } = pixelsOf(raster, mask),
    near = ink.filter((p) => Math.hypot(p[0] - x, p[1] - y) <= reach);
  if (near.length === 0) return [];
  const width = strokeWidth(
    raster,
    mask,
    [...near]
      .sort((a, b) => Math.hypot(a[0] - x, a[1] - y) - Math.hypot(b[0] - x, b[1] - y))
      .slice(0, MOST_FOR_WIDTH),
  );
  const search: Search = { ink, soft, near, x, y, reach, width, random: chance() };
  const line = bestLine(search),
    arc = bestArc(search);
  if (arc && (!line || arcIsMeant(arc, line))) return [arcOnSheet(raster, arc)];
  if (!line) return [];
  const beside = (p: Weighted) => Math.abs(line.off(p)) > width / 2 + 1,
    rest = ink.filter(beside);
  const other = bestLine({
    ...search,
    ink: rest,
    soft: soft.filter(beside),
    near: rest.filter((p) => Math.hypot(p[0] - x, p[1] - y) <= reach + width),
  });
  const corner = other && cornerOf(line, other, search);
  if (!corner) return [lineOnSheet(raster, line)];
  return [lineOnSheet(raster, line, corner), lineOnSheet(raster, other, corner)];
}

/** `ink`: pixels that are dark; `soft`: with those beside them, that a stroke covers in part. */
interface Search {
  ink: readonly Weighted[];
  soft: readonly Weighted[];
  near: readonly Weighted[];
  x: number;
  y: number;
  reach: number;
  width: number;
  random(): number;
}

/** Middles of dark pixels and of those beside them, weighted by how much darker than the paper they are: an edge within a pixel counts by its share. */
function pixelsOf(raster: Raster, mask: Uint8Array): Pick<Search, 'ink' | 'soft'> {
  const { width, height, grey } = raster,
    paper = paperOf(grey, mask),
    ink: Weighted[] = [],
    soft: Weighted[] = [];
  for (let i = 0; i < mask.length; i++) {
    const u = i % width,
      v = Math.floor(i / width);
    const edge =
      !mask[i] &&
      ((u > 0 && mask[i - 1]) ||
        (u + 1 < width && mask[i + 1]) ||
        (v > 0 && mask[i - width]) ||
        (v + 1 < height && mask[i + width]));
    if (!mask[i] && !edge) continue;
    const p: Weighted = [u + 0.5, v + 0.5, Math.max(0, paper - grey[i]) / paper];
    if (mask[i]) ink.push(p);
    if (p[2] > LEAST_DARK) soft.push(p);
  }
  return { ink, soft };
}

/** The usual grey of what is no ink. */
function paperOf(grey: Uint8Array, mask: Uint8Array): number {
  const counts = new Uint32Array(256);
  let total = 0;
  grey.forEach((g, i) => {
    if (!mask[i]) {
      counts[g]++;
      total++;
    }
  });
  let value = 0;
  for (let left = total / 2; value < 255 && (left -= counts[value]) > 0;) value++;
  return Math.max(1, value);
}

/** The width of the stroke that pixels lie in: the shortest way across it, in whole pixels along the axes and diagonals; of several the middle one. */
function strokeWidth({ width, height }: Raster, mask: Uint8Array, pixels: readonly Weighted[]): number {
  const dark = (u: number, v: number) =>
    u >= 0 && v >= 0 && u < width && v < height && mask[v * width + u] === 1;
  const widths = pixels.map(([px, py]) =>
    Math.min(
      ...[
        [1, 0],
        [0, 1],
        [1, 1],
        [1, -1],
      ].map(([dx, dy]) => {
        let n = 1;
        for (const way of [1, -1])
          for (let k = 1; dark(Math.floor(px) + way * k * dx, Math.floor(py) + way * k * dy); k++) n++;
        return n * Math.hypot(dx, dy);
      }),
    ),
  );
  return widths.sort((a, b) => a - b)[Math.floor(widths.length / 2)];
}

interface FitLine {
  kind: 'line';
  at: [number, number];
  direction: [number, number];
  run: Run;
  stray: number;
  off(p: Weighted): number;
}
interface FitArc {
  kind: 'arc';
  circle: FittedCircle;
  start: number;
  sweep: number;
  length: number;
  stray: number;
}

const judged = (ink: readonly Weighted[]): Weighted[] => {
  const every = Math.max(1, Math.floor(ink.length / MOST_JUDGED));
  return ink.filter((_, i) => i % every === 0);
};

function bestLine(s: Search): FitLine | null {
  if (s.near.length === 0) return null;
  const sample = judged(s.ink),
    pick = (from: readonly Weighted[]) => from[Math.floor(s.random() * from.length)];
  let best: FitLine | null = null,
    most = 0;
  for (let i = 0; i < TRIES; i++) {
    const p = pick(s.near),
      q = pick(sample),
      length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (length < LEAST_LENGTH) continue;
    const line = lineThrough([p[0], p[1]], [(q[0] - p[0]) / length, (q[1] - p[1]) / length]);
    let count = 0;
    for (const r of sample) if (Math.abs(line.off(r)) <= s.width / 2 + 0.7) count++;
    if (count <= most) continue;
    const run = runAlong(s, line);
    if (!run || Math.min(count, run.middles.length * s.width) <= most) continue;
    [best, most] = [{ ...line, run }, Math.min(count, run.middles.length * s.width)];
  }
  // The middles of the ink say more than its pixels: they are fitted again and again, without those that other strokes pull aside.
  for (let i = 0; best && i < 4; i++) best = refined(s, best);
  return best && best.run.to - best.run.from >= Math.max(LEAST_LENGTH, LEAST_WIDTHS * s.width) ? best : null;
}

function lineThrough(at: [number, number], direction: [number, number]): Omit<FitLine, 'run'> {
  const [dx, dy] = direction;
  return { kind: 'line', at, direction, stray: 0, off: ([x, y]) => dx * (y - at[1]) - dy * (x - at[0]) };
}

/** The run of ink along a line that is nearest to the cursor; null where that lies too far off. */
function runAlong(s: Search, line: Omit<FitLine, 'run'>): Run | null {
  const [dx, dy] = line.direction,
    along = (x: number, y: number) => dx * (x - line.at[0]) + dy * (y - line.at[1]);
  const here = along(s.x, s.y);
  if (Math.abs(line.off([s.x, s.y, 1])) > s.reach + s.width / 2) return null;
  return runAt(s, here, (p) => [along(p[0], p[1]), line.off(p)]);
}

/** Gathers the ink beside a line or circle into a run about a place along it. `place`: along it and off it, pixels. */
function runAt(
  s: Search,
  here: number,
  place: (p: Weighted) => [number, number],
  around = Infinity,
): Run | null {
  const bins = new Map<number, { sum: number; weight: number; offs: number }>();
  for (const p of s.soft) {
    const [along, off] = place(p);
    if (Math.abs(off) > s.width / 2 + 1.2) continue;
    const at = Math.round(along - here),
      bin = bins.get(at) ?? { sum: 0, weight: 0, offs: 0 };
    bin.sum += p[2] * along;
    bin.offs += p[2] * off;
    bin.weight += p[2];
    bins.set(at, bin);
  }
  let first = 0;
  while (Math.abs(first) <= s.reach && !bins.has(first)) first = first > 0 ? -first : 1 - first;
  if (!bins.has(first)) return null;
  // Specks of noise beside the stroke's end are no part of it.
  const beside = [...bins]
    .filter(([k]) => Math.abs(k - first) <= BESIDE)
    .map(([, bin]) => bin.weight)
    .sort((a, b) => a - b);
  const least = LEAST_SHARE * beside[Math.floor(beside.length / 2)];
  const end = (way: number) => {
    let at = first;
    for (let k = first, gap = 0; gap <= GAP && Math.abs(k - first) < around; k += way) {
      if ((bins.get(k)?.weight ?? 0) >= least) [at, gap] = [k, 0];
      else gap++;
    }
    return at;
  };
  const [low, high] = [end(-1), end(1)];
  const middles: Run['middles'] = [];
  for (let k = low; k <= high; k++) {
    const bin = bins.get(k);
    if (bin) middles.push({ at: bin.sum / bin.weight, off: bin.offs / bin.weight, weight: bin.weight });
  }
  return { from: here + low - 0.5, to: here + high + 0.5, middles };
}

/** Middles that other strokes do not pull aside: within three times the usual distance from the line. */
function clean({ middles }: Run): Run['middles'] {
  const offs = middles.map((m) => Math.abs(m.off)).sort((a, b) => a - b),
    usual = Math.max(0.08, offs[Math.floor(offs.length / 2)]);
  return middles.filter((m) => Math.abs(m.off) <= 3 * usual);
}

const strayOf = (middles: Run['middles']): number =>
  Math.sqrt(middles.reduce((sum, m) => sum + m.off * m.off, 0) / Math.max(1, middles.length));

function refined(s: Search, line: FitLine): FitLine {
  const kept = clean(line.run);
  if (kept.length < 3) return line;
  const n = kept.length,
    mean = kept.reduce((sum, m) => sum + m.at, 0) / n,
    off = kept.reduce((sum, m) => sum + m.off, 0) / n;
  const square = kept.reduce((sum, m) => sum + (m.at - mean) ** 2, 0),
    slope = square > 0 ? kept.reduce((sum, m) => sum + (m.at - mean) * (m.off - off), 0) / square : 0;
  const [dx, dy] = line.direction,
    turned = Math.hypot(1, slope);
  const at: [number, number] = [line.at[0] + mean * dx - off * dy, line.at[1] + mean * dy + off * dx];
  const next = lineThrough(at, [(dx - slope * dy) / turned, (dy + slope * dx) / turned]);
  const run = runAlong(s, next);
  return run ? { ...next, run, stray: strayOf(clean(run)) } : line;
}

function bestArc(s: Search): FitArc | null {
  const sample = judged(s.ink),
    pick = (from: readonly Weighted[]) => from[Math.floor(s.random() * from.length)];
  let best: { circle: FittedCircle; run: Run } | null = null,
    most = 0;
  const largest = 4 * Math.max(...s.ink.map((p) => Math.max(p[0], p[1])));
  for (let i = 0; i < TRIES; i++) {
    const circle = throughThree(pick(s.near), pick(sample), pick(sample));
    if (!circle || circle.r < 1.5 * s.width || circle.r > largest) continue;
    if (Math.abs(Math.hypot(s.x - circle.cx, s.y - circle.cy) - circle.r) > s.reach + s.width / 2) continue;
    let count = 0;
    for (const [x, y] of sample)
      if (Math.abs(Math.hypot(x - circle.cx, y - circle.cy) - circle.r) <= s.width / 2 + 0.7) count++;
    if (count <= most) continue;
    const run = runRound(s, circle);
    if (!run || Math.min(count, run.middles.length * s.width) <= most) continue;
    [best, most] = [{ circle, run }, Math.min(count, run.middles.length * s.width)];
  }
  for (let i = 0; best && i < 5; i++) {
    const { circle, run }: { circle: FittedCircle; run: Run } = best;
    const points = clean(run).map((m): Weighted => {
      const angle = m.at / circle.r,
        r = circle.r + m.off;
      return [circle.cx + r * Math.cos(angle), circle.cy + r * Math.sin(angle), 1];
    });
    const next = fitCircle(points),
      round = next && next.r < largest ? runRound(s, next) : null;
    if (!next || !round) break;
    best = { circle: next, run: round };
  }
  if (!best) return null;
  const { circle, run } = best,
    length = Math.min(run.to - run.from, TAU * circle.r),
    sweep = length / circle.r;
  const rise = circle.r * (1 - Math.cos(Math.min(Math.PI, sweep / 2))),
    stray = strayOf(clean(run));
  // Two straight strokes can be followed round their corner for a while, but not well.
  if (stray > MOST_STRAY + STRAY_SHARE * s.width) return null;
  if (sweep < LEAST_SWEEP || rise < LEAST_RISE || length < Math.max(LEAST_LENGTH, LEAST_WIDTHS * s.width))
    return null;
  // Where the ink comes round to its beginning it is a circle.
  const whole = sweep >= TAU - (GAP + s.width) / circle.r;
  return {
    kind: 'arc',
    circle,
    start: whole ? 0 : run.from / circle.r,
    sweep: whole ? TAU : sweep,
    length,
    stray,
  };
}

function runRound(s: Search, { cx, cy, r }: FittedCircle): Run | null {
  const here = Math.atan2(s.y - cy, s.x - cx) * r,
    half = Math.PI * r;
  return runAt(
    s,
    here,
    ([x, y]) => {
      const along = Math.atan2(y - cy, x - cx) * r;
      // Measured from the cursor either way round, so that the run does not break at half a turn.
      return [
        along - here > half ? along - 2 * half : along - here < -half ? along + 2 * half : along,
        Math.hypot(x - cx, y - cy) - r,
      ];
    },
    half,
  );
}

function throughThree([ax, ay]: Weighted, [bx, by]: Weighted, [cx, cy]: Weighted): FittedCircle | null {
  const d = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by));
  if (Math.abs(d) < 1e-6) return null;
  const a = ax * ax + ay * ay,
    b = bx * bx + by * by,
    c = cx * cx + cy * cy;
  const x = (a * (by - cy) + b * (cy - ay) + c * (ay - by)) / d,
    y = (a * (cx - bx) + b * (ax - cx) + c * (bx - ax)) / d;
  return { cx: x, cy: y, r: Math.hypot(ax - x, ay - y) };
}

/** An arc is meant where it takes in clearly more of the ink than a straight line, or as much of it and fits it clearly better. */
function arcIsMeant(arc: FitArc, line: FitLine): boolean {
  const straight = line.run.to - line.run.from;
  return arc.length >= 1.3 * straight || (arc.length >= 0.9 * straight && arc.stray < 0.55 * line.stray);
}

const usualWeight = ({ middles }: Run): number =>
  middles.map((m) => m.weight).sort((p, q) => p - q)[Math.floor(middles.length / 2)] ?? 0;

/** Where two strokes meet near the cursor; null where they do not. */
function cornerOf(a: FitLine, b: FitLine, s: Search): [number, number] | null {
  const length = b.run.to - b.run.from;
  if (length < CORNER_LENGTH || b.run.middles.length < CORNER_SHARE * length) return null;
  // Specks of noise in a row are fainter than a stroke, and lie in no line.
  if (usualWeight(b.run) < CORNER_WEIGHT * usualWeight(a.run) || b.stray > MOST_STRAY + STRAY_SHARE * s.width)
    return null;
  const sine = a.direction[0] * b.direction[1] - a.direction[1] * b.direction[0];
  if (Math.abs(sine) < LEAST_CORNER) return null;
  const t = ((b.at[0] - a.at[0]) * b.direction[1] - (b.at[1] - a.at[1]) * b.direction[0]) / sine;
  const corner: [number, number] = [a.at[0] + t * a.direction[0], a.at[1] + t * a.direction[1]];
  const slack = s.width + GAP;
  const reaches = (l: FitLine) => {
    const along = l.direction[0] * (corner[0] - l.at[0]) + l.direction[1] * (corner[1] - l.at[1]);
    return along >= l.run.from - slack && along <= l.run.to + slack;
  };
  return Math.hypot(corner[0] - s.x, corner[1] - s.y) <= s.reach + s.width && reaches(a) && reaches(b)
    ? corner
    : null;
}

function lineOnSheet(
  raster: Raster,
  { at, direction, run, stray }: FitLine,
  corner?: [number, number],
): InkFit {
  const along = corner && direction[0] * (corner[0] - at[0]) + direction[1] * (corner[1] - at[1]);
  // A stroke that ends in the corner ends there; one that goes through goes on.
  const ends = [run.from, run.to].map((end) =>
    along !== undefined && Math.abs(end - along) <= GAP + 4 ? along : end,
  );
  const [from, to] = ends.map((t) =>
    sheetFromPixel(raster, at[0] + t * direction[0], at[1] + t * direction[1]),
  );
  return { kind: 'line', from: [from[0], from[1]], to: [to[0], to[1]], stray: stray / raster.scale };
}

function arcOnSheet(raster: Raster, { circle, start, sweep, stray }: FitArc): InkFit {
  const [cx, cy] = sheetFromPixel(raster, circle.cx, circle.cy);
  // On the sheet y goes up: what ran one way round runs the other.
  const from = ((-(start + sweep) % TAU) + TAU) % TAU;
  return {
    kind: 'arc',
    cx,
    cy,
    r: circle.r / raster.scale,
    start: sweep >= TAU ? 0 : from,
    end: sweep >= TAU ? TAU : from + sweep,
    stray: stray / raster.scale,
  };
}
