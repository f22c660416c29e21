import {
  applyTransform,
  compose,
  fitSimilarity,
  invertTransform,
  type PointPair,
  type Transform,
} from '../geometry/index.ts';
import { LineFinder } from './line-finder.ts';
import type { Lines, Progress } from './types.ts';

export interface Registration {
  /** newFromOld: a similarity. */
  transform: Transform;
  scale: number;
  /** Turn, counter-clockwise. */
  radians: number;
  /** Root mean square distance of the ends of lines found on both, sheet points of the new page. */
  residual: number;
  /** Share of the old page's line length that is found on the new one. */
  found: number;
}

/** Lines that vote: the longest say most, and more would not change the outcome. */
const VOTERS = 1500,
  RATIO_VOTERS = 300;
/** Lines that judge a candidate, and lines that the result is fitted by. */
const JUDGES = 3000,
  FITTED = 30000;
const ANGLE_BINS = 720;
const CANDIDATE_TURNS = 6,
  CANDIDATE_SCALES = 6;
/** Scales are told apart in steps of a thousandth, within a factor of twelve either way. */
const RATIO_STEP = 0.001,
  RATIO_RANGE = Math.log(12);
/** Translations are voted on in cells of this size, sheet points. */
const CELL = 2;
const SAME_LENGTH = 0.004;
/** Distances within which ends are paired while refining, one round after another. */
const ROUNDS = [4, 1.5, 0.6];
/** Below this share of common line length two pages are not the same drawing. */
export const LEAST_COMMON = 0.2;

/** The similarity that lays the old page's lines onto the new one's, or null when they have too little in common. */
export function register(
  oldLines: Lines,
  newLines: Lines,
  progress: Progress = () => {},
): Registration | null {
  if (oldLines.length === 0 || newLines.length === 0) return null;
  const finder = new LineFinder(newLines);
  // Candidates are told apart by some of the lines, spread over the page; the best is fitted by many.
  const some = spread(oldLines, JUDGES),
    many = spread(oldLines, FITTED);
  const straight = refined(some, [1, 0, 0, 1, 0, 0], finder);
  // Pages that agree as they lie are not turned and shifted for the sake of a few more lines.
  if (straight && straight.found > 0.9) return refined(many, straight.transform, finder);
  const older = longest(oldLines, VOTERS),
    newer = longest(newLines, VOTERS);
  const byKind = directory(newer);
  let best = straight,
    tried = 0;
  const turns = candidateTurns(older, newer);
  const scales = candidateScales(older, newer, turns);
  for (const turn of turns) {
    for (const scale of scales) {
      progress(tried++ / (turns.length * scales.length));
      const start = shiftByVotes(older, byKind, turn, scale);
      const result = start && refined(some, start, finder);
      if (result && (!best || result.found > best.found + 1e-9)) best = result;
    }
    if (best && best.found > 0.85) break;
  }
  progress(1);
  return best && best.found >= LEAST_COMMON ? refined(many, best.transform, finder) : null;
}

/** About `count` of the lines, taken evenly. */
function spread(lines: Lines, count: number): Lines {
  const n = lines.length / 4;
  if (n <= count) return lines;
  const out = new Float64Array(4 * count);
  for (let k = 0; k < count; k++)
    out.set(lines.subarray(4 * Math.floor((k * n) / count), 4 * Math.floor((k * n) / count) + 4), 4 * k);
  return out;
}

interface Voter {
  x: number;
  y: number;
  angle: number;
  length: number;
}

function longest(lines: Lines, count: number): Voter[] {
  const all: Voter[] = [];
  for (let i = 0; i < lines.length; i += 4) {
    const dx = lines[i + 2] - lines[i],
      dy = lines[i + 3] - lines[i + 1];
    all.push({
      x: (lines[i] + lines[i + 2]) / 2,
      y: (lines[i + 1] + lines[i + 3]) / 2,
      angle: (Math.atan2(dy, dx) + 2 * Math.PI) % Math.PI,
      length: Math.sqrt(dx * dx + dy * dy),
    });
  }
  return all.sort((a, b) => b.length - a.length).slice(0, count);
}

const binOf = (angle: number) =>
  ((Math.round((angle * ANGLE_BINS) / Math.PI) % ANGLE_BINS) + ANGLE_BINS) % ANGLE_BINS;

/** Turns at which most line length runs in the same directions; lines say it twice, half a turn apart. */
function candidateTurns(older: readonly Voter[], newer: readonly Voter[]): number[] {
  const weight = (voters: readonly Voter[]) => {
    const bins = new Float64Array(ANGLE_BINS);
    for (const v of voters) bins[binOf(v.angle)] += v.length;
    return bins;
  };
  const a = weight(older),
    b = weight(newer);
  const scores: [number, number][] = [];
  for (let shift = 0; shift < ANGLE_BINS; shift++) {
    let score = 0;
    for (let i = 0; i < ANGLE_BINS; i++)
      score += Math.sqrt(
        a[i] *
          (b[(i + shift) % ANGLE_BINS] +
            0.5 * (b[(i + shift + 1) % ANGLE_BINS] + b[(i + shift + ANGLE_BINS - 1) % ANGLE_BINS])),
      );
    scores.push([score, shift]);
  }
  const peaks = scores
    .filter(
      ([s, i]) => s >= scores[(i + 1) % ANGLE_BINS][0] && s >= scores[(i + ANGLE_BINS - 1) % ANGLE_BINS][0],
    )
    .sort((p, q) => q[0] - p[0]);
  const turns = peaks.slice(0, CANDIDATE_TURNS).map(([, shift]) => (shift * Math.PI) / ANGLE_BINS);
  // The likeliest first, and of its two senses the one that turns less.
  return turns.flatMap((t) => (t > Math.PI / 2 ? [t - Math.PI, t] : [t, t - Math.PI]));
}

function candidateScales(
  older: readonly Voter[],
  newer: readonly Voter[],
  turns: readonly number[],
): number[] {
  const bins = new Float64Array(Math.ceil((2 * RATIO_RANGE) / RATIO_STEP) + 1);
  const turnBins = new Set(turns.map((t) => binOf(t)));
  for (const o of older.slice(0, RATIO_VOTERS)) {
    for (const n of newer.slice(0, RATIO_VOTERS)) {
      const turn = binOf(n.angle - o.angle);
      if (
        !turnBins.has(turn) &&
        !turnBins.has((turn + 1) % ANGLE_BINS) &&
        !turnBins.has((turn + ANGLE_BINS - 1) % ANGLE_BINS)
      )
        continue;
      const k = Math.round((Math.log(n.length / o.length) + RATIO_RANGE) / RATIO_STEP);
      if (k >= 0 && k < bins.length) bins[k]++;
    }
  }
  const smooth = bins.map((v, i) => v + (bins[i - 1] ?? 0) + (bins[i + 1] ?? 0));
  const peaks: [number, number][] = [];
  smooth.forEach((v, i) => {
    if (v > 0 && v >= (smooth[i - 1] ?? 0) && v > (smooth[i + 1] ?? 0)) peaks.push([v, i]);
  });
  const found = peaks
    .sort((p, q) => q[0] - p[0])
    .slice(0, CANDIDATE_SCALES)
    .map(([, i]) => Math.exp(i * RATIO_STEP - RATIO_RANGE));
  return [1, ...found.filter((s) => Math.abs(s - 1) > 2 * RATIO_STEP)];
}

/** New lines by direction and length. */
function directory(newer: readonly Voter[]): Map<number, Voter[]> {
  const map = new Map<number, Voter[]>();
  for (const v of newer) {
    const key = keyOf(binOf(v.angle), Math.round(Math.log(v.length) / SAME_LENGTH));
    const list = map.get(key);
    if (list) list.push(v);
    else map.set(key, [v]);
  }
  return map;
}

const keyOf = (angleBin: number, lengthBin: number) => lengthBin * ANGLE_BINS + angleBin;

/** Each old line votes for the shifts that would lay it onto a new line of its direction and length; rare lines say more. */
function shiftByVotes(
  older: readonly Voter[],
  byKind: ReadonlyMap<number, Voter[]>,
  turn: number,
  scale: number,
): Transform | null {
  const c = scale * Math.cos(turn),
    s = scale * Math.sin(turn);
  const votes = new Map<number, { weight: number; x: number; y: number }>();
  let best: { weight: number; x: number; y: number } | null = null;
  for (const o of older) {
    const angle = binOf(o.angle + turn),
      length = Math.round(Math.log(o.length * scale) / SAME_LENGTH);
    const matches: Voter[] = [];
    for (let da = -1; da <= 1; da++)
      for (let dl = -1; dl <= 1; dl++)
        matches.push(...(byKind.get(keyOf((angle + da + ANGLE_BINS) % ANGLE_BINS, length + dl)) ?? []));
    for (const n of matches) {
      const dx = n.x - (c * o.x - s * o.y),
        dy = n.y - (s * o.x + c * o.y);
      const weight = o.length / matches.length;
      const i = Math.floor(dx / CELL),
        j = Math.floor(dy / CELL);
      // A vote on the border of its cell counts for its neighbours too.
      for (let di = 0; di <= 1; di++)
        for (let dj = 0; dj <= 1; dj++) {
          const key = (i + di) * 1048576 + (j + dj);
          const cell = votes.get(key) ?? { weight: 0, x: 0, y: 0 };
          cell.weight += weight;
          cell.x += weight * dx;
          cell.y += weight * dy;
          votes.set(key, cell);
          if (!best || cell.weight > best.weight) best = cell;
        }
    }
  }
  return best && [c, s, -s, c, best.x / best.weight, best.y / best.weight];
}

/** Pairs ends of lines that lie on one another and fits again, within ever smaller distances. */
function refined(oldLines: Lines, start: Transform, finder: LineFinder): Registration | null {
  let transform = start,
    residual = 0,
    found = 0;
  for (const reach of ROUNDS) {
    const pairs: PointPair[] = [];
    let common = 0,
      all = 0;
    for (let i = 0; i < oldLines.length; i += 4) {
      const p = applyTransform(transform, [oldLines[i], oldLines[i + 1]]),
        q = applyTransform(transform, [oldLines[i + 2], oldLines[i + 3]]);
      const length = Math.sqrt((q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2);
      all += length;
      const match = finder.sameLine(p, q, reach);
      if (!match) continue;
      common += length;
      pairs.push(
        { from: [oldLines[i], oldLines[i + 1]], to: match[0], weight: 1 },
        { from: [oldLines[i + 2], oldLines[i + 3]], to: match[1], weight: 1 },
      );
    }
    found = all === 0 ? 0 : common / all;
    if (pairs.length < 4 || found < LEAST_COMMON / 4) return null;
    const fit = fitSimilarity(pairs);
    if (!fit) return null;
    transform = fit.transform;
    residual = fit.residual;
  }
  return {
    transform,
    scale: Math.hypot(transform[0], transform[1]),
    radians: Math.atan2(transform[1], transform[0]),
    residual,
    found,
  };
}

/** An old placement as the new page is to lie: what was traced on the old one stays under the same lines. */
export const placementOfNew = (planeFromOld: Transform, newFromOld: Transform): Transform =>
  compose(planeFromOld, invertTransform(newFromOld));
