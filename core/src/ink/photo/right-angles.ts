import { applyHomography, invertHomography, type Homography } from '../../geometry/index.ts';
import type { Stroke } from '../lines/directions.ts';

/** Where two families of parallel lines, square to one another in truth, seem to meet; homogeneous, pixels from the photo's middle. */
export interface Meeting {
  across: readonly [number, number, number];
  up: readonly [number, number, number];
}

export interface RightAngles extends Meeting {
  /** Lines of both families that were fitted. */
  lines: number;
  /** How far ends of lines miss, pixels (a robust standard deviation). */
  noise: number;
  /** Takes pixels (from the middle) so that both families run along the axes; near the middle nothing grows or shrinks much. */
  squared: Homography;
  /** Standard deviation of how far each corner of the photo may be moved by the fit, pixels. */
  sigma: number;
}

/** Longest lines that are tried in pairs, and how many pairs. */
const LONGEST = 60,
  MOST_LINES = 600;
/** A line runs to a meeting point where its ends miss by at most this, pixels, or this turn, radians. */
const MISS = 2.5,
  TURN = 0.006;
/** Two families seem at least so square to one another, sine. */
const LEAST_SINE = 0.5;
/** Rounds of fitting, and beyond how many standard deviations a line does not count (Tukey's biweight). */
const ROUNDS = 8,
  BIWEIGHT = 4.7;
/** Ends of lines are seldom known better than this, pixels; and so many lines at least say where they meet. */
const END_SIGMA = 0.35,
  LEAST_LINES = 5;

const cross = (a: readonly number[], b: readonly number[]): [number, number, number] => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const lengthOf = ({ a, b }: Stroke) => Math.hypot(b[0] - a[0], b[1] - a[1]);

/**
 * Finds the two families of lines that in truth run along and square to one another, by where they seem to meet: of all pairs
 * of long lines the meeting points that most length runs to, then by least squares over all lines of a family, leaving out what
 * misses. `half`: half the photo's width and height, pixels.
 */
export function rightAngles(strokes: readonly Stroke[], half: readonly [number, number]): RightAngles | null {
  const lines = [...strokes].sort((p, q) => lengthOf(q) - lengthOf(p)).slice(0, MOST_LINES);
  const start = bestMeeting(lines);
  return start && refined(lines, start, half);
}

/** How far the end of a line misses when it is turned about its middle towards a point, pixels. */
function missOf({ a, b }: Stroke, v: readonly [number, number, number]): number {
  const mx = (a[0] + b[0]) / 2,
    my = (a[1] + b[1]) / 2,
    l = cross([mx, my, 1], v),
    n = Math.hypot(l[0], l[1]);
  return n < 1e-12 ? Infinity : Math.abs(l[0] * a[0] + l[1] * a[1] + l[2]) / n;
}

/** A line runs to where its family meets when its ends miss by at most this, pixels. */
const RUNS_TO = 1.5;

/** How much length of lines runs to where the families meet, pixels; and how much of it would all the same if the picture were flat, at the best of the lines' own turns. */
export function explained(lines: readonly Stroke[], { across, up }: Meeting): { seen: number; flat: number } {
  const by = (m: Meeting) =>
    lines.reduce(
      (sum, l) => sum + (Math.min(missOf(l, m.across), missOf(l, m.up)) <= RUNS_TO ? lengthOf(l) : 0),
      0,
    );
  const turns = [...lines]
    .sort((p, q) => lengthOf(q) - lengthOf(p))
    .slice(0, LONGEST)
    .map(turnOf);
  return {
    seen: by({ across, up }),
    flat: Math.max(
      0,
      ...turns.map((t) => by({ across: [Math.cos(t), Math.sin(t), 0], up: [-Math.sin(t), Math.cos(t), 0] })),
    ),
  };
}

function bestMeeting(lines: readonly Stroke[]): Meeting | null {
  const long = lines.slice(0, LONGEST),
    weight = lines.map((l) => lengthOf(l));
  const candidates: { v: [number, number, number]; score: number; turn: number }[] = [];
  for (let i = 0; i < long.length; i++) {
    for (let k = i + 1; k < long.length; k++) {
      const p = long[i],
        q = long[k],
        turn = turnOf(p);
      const between = Math.abs(Math.sin(turn - turnOf(q)));
      if (between > 0.5) continue;
      const v = cross(cross([...p.a, 1], [...p.b, 1]), cross([...q.a, 1], [...q.b, 1]));
      const size = Math.hypot(v[0], v[1]) + Math.abs(v[2]);
      if (size < 1e-9) continue;
      let score = 0;
      lines.forEach((l, m) => {
        if (missOf(l, v) < Math.max(0.8, Math.min(MISS, (TURN * weight[m]) / 2))) score += weight[m];
      });
      candidates.push({ v: [v[0] / size, v[1] / size, v[2] / size], score, turn });
    }
  }
  candidates.sort((a, b) => b.score - a.score);
  let best: { pair: [(typeof candidates)[0], (typeof candidates)[0]]; score: number } | null = null;
  const few = candidates.slice(0, 4000);
  for (let i = 0; i < Math.min(40, few.length); i++) {
    const partner = few.find((c) => Math.abs(Math.sin(c.turn - few[i].turn)) > LEAST_SINE);
    if (partner && (!best || few[i].score + partner.score > best.score))
      best = { pair: [few[i], partner], score: few[i].score + partner.score };
  }
  if (!best) return null;
  const [a, b] = best.pair;
  return Math.abs(Math.cos(a.turn)) > Math.abs(Math.cos(b.turn))
    ? { across: a.v, up: b.v }
    : { across: b.v, up: a.v };
}

const turnOf = ({ a, b }: Stroke) => Math.atan2(b[1] - a[1], b[0] - a[0]);

/** The map that lays lines to `across` along x and lines to `up` along y, and keeps sizes along both about the middle. */
export function squaring({ across, up }: Meeting): Homography {
  // x stays the same along lines to `up`, y along lines to `across`; both are 0 in the middle.
  const [h0, h1, h2] = cross(across, up),
    x = [up[1], -up[0]],
    y = [across[1], -across[0]];
  const kx = (Math.sign(x[0]) || 1) / Math.hypot(x[0], x[1]),
    ky = (Math.sign(y[1]) || 1) / Math.hypot(y[0], y[1]);
  return [kx * x[0], kx * x[1], 0, ky * y[0], ky * y[1], 0, h0 / h2, h1 / h2, 1];
}

/**
 * In the squared frame every line of a family has a slope that a small perspective explains: m = a + c (m x - y) along x, and
 * likewise along y; both are linear in what is sought.
 */
function refined(
  lines: readonly Stroke[],
  start: Meeting,
  [hx, hy]: readonly [number, number],
): RightAngles | null {
  let meeting = start,
    noise = MISS,
    used = 0,
    sigma = Infinity;
  const size = Math.hypot(hx, hy);
  for (let round = 0; round < ROUNDS; round++) {
    const squared = squaring(meeting);
    if (!squared.every(Number.isFinite)) return null;
    const sums = [new Normal(), new Normal()],
      misses: number[] = [];
    used = 0;
    for (const l of lines) {
      const a = applyHomography(squared, l.a),
        b = applyHomography(squared, l.b);
      const dx = b[0] - a[0],
        dy = b[1] - a[1],
        family = Math.abs(dx) > Math.abs(dy) ? 0 : 1;
      const along = family === 0 ? dx : dy,
        off = family === 0 ? dy : dx;
      const miss = Math.abs(off) / 2,
        limit = BIWEIGHT * noise;
      if (Math.abs(off / along) > 0.1 || miss > Math.max(limit, round === 0 ? 3 * MISS : 0)) continue;
      const w = (1 - Math.min(1, (miss / Math.max(limit, 1e-9)) ** 2)) ** 2 || (round === 0 ? 0.01 : 0);
      // The slope is as sure as the line is long.
      const weight = w * along * along;
      const m = off / along,
        x = (a[0] + b[0]) / 2,
        y = (a[1] + b[1]) / 2;
      sums[family].add(1, (family === 0 ? m * x - y : m * y - x) / size, m, weight);
      misses.push(miss);
      used++;
    }
    if (sums.some((s) => s.count < LEAST_LINES)) return null;
    const [s, t] = [sums[0].solve(), sums[1].solve()];
    if (!s || !t) return null;
    const c = s.b / size,
      d = t.b / size;
    const back = invertHomography(squared);
    const toward = (v: readonly [number, number, number]): [number, number, number] =>
      [0, 3, 6].map((r) => back[r] * v[0] + back[r + 1] * v[1] + back[r + 2] * v[2]) as [
        number,
        number,
        number,
      ];
    meeting = { across: unit(toward([1, s.a, c])), up: unit(toward([t.a, 1, d])) };
    noise = Math.max(END_SIGMA, 1.4826 * median(misses));
    // A slope is off by what both ends are off, over the length.
    const per = 2 * noise;
    sigma = size * Math.hypot(per * s.sigmaA, per * t.sigmaA, per * s.sigmaB, per * t.sigmaB);
  }
  const squared = squaring(meeting);
  return { ...meeting, lines: used, noise, squared, sigma };
}

const unit = (v: readonly [number, number, number]): [number, number, number] => {
  const n = Math.hypot(v[0], v[1]) + Math.abs(v[2]);
  return [v[0] / n, v[1] / n, v[2] / n];
};
const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** Weighted least squares of two unknowns. */
class Normal {
  count = 0;
  private readonly s = [0, 0, 0, 0, 0];
  add(u: number, v: number, value: number, w: number): void {
    this.count++;
    [u * u, u * v, v * v, u * value, v * value].forEach((term, i) => {
      this.s[i] += w * term;
    });
  }
  solve(): { a: number; b: number; sigmaA: number; sigmaB: number } | null {
    const [uu, uv, vv, ur, vr] = this.s,
      det = uu * vv - uv * uv;
    return det > 1e-12 * uu * vv
      ? {
          a: (vv * ur - uv * vr) / det,
          b: (uu * vr - uv * ur) / det,
          sigmaA: Math.sqrt(vv / det),
          sigmaB: Math.sqrt(uu / det),
        }
      : null;
  }
}
