import type { Point } from '../geometry/index.ts';
import type { CommonPoints } from './align.ts';
import { radius95 } from './fit/circular.ts';

/** A perspective map, row by row: (x, y) goes to ((h₀x + h₁y + h₂) / w, (h₃x + h₄y + h₅) / w), w = h₆x + h₇y + h₈. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

export type HomographyOutcome = { ok: true; map: Homography; /** How far each pair misses, in units of the target. */ residuals: number[] } | { ok: false; reason: 'too-few' | 'in-line' };

/** Corners nearer to a line than this share of their spread do not tell a perspective. */
const IN_LINE = 0.02;

export function applyHomography(h: Homography, [x, y]: Point): [number, number] {
  const w = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

/** Positive on the side of the horizon that the picture shows. */
export const depthAt = (h: Homography, [x, y]: Point): number => h[6] * x + h[7] * y + h[8];

const times = (a: Homography, b: Homography): Homography => Array.from({ length: 9 }, (_, i) => {
  const r = 3 * Math.floor(i / 3), c = i % 3;
  return a[r] * b[c] + a[r + 1] * b[c + 3] + a[r + 2] * b[c + 6];
}) as unknown as Homography;

/** The inverse map, by the adjugate: scale does not matter to a homography. */
export function invertHomography([a, b, c, d, e, f, g, h, i]: Homography): Homography {
  return [e * i - f * h, c * h - b * i, b * f - c * e, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d];
}

/** Moves points to their middle and scales them to a mean distance of √2, as the numbers need it (Hartley 1997). */
function normalising(points: readonly Point[]): Homography {
  const n = points.length, mx = points.reduce((s, p) => s + p[0], 0) / n, my = points.reduce((s, p) => s + p[1], 0) / n;
  const k = Math.SQRT2 / (points.reduce((s, p) => s + Math.hypot(p[0] - mx, p[1] - my), 0) / n || 1);
  return [k, 0, -k * mx, 0, k, -k * my, 0, 0, 1];
}

/**
 * The perspective that takes four or more points to where they ought to be: the direct linear transformation on
 * normalised points, by least squares (Hartley and Zisserman, Multiple View Geometry, 4.1 and 4.4).
 */
export function fitHomography(pairs: readonly CommonPoints[]): HomographyOutcome {
  if (pairs.length < 4) return { ok: false, reason: 'too-few' };
  if (inLine(pairs.map((p) => p.from)) || inLine(pairs.map((p) => p.to))) return { ok: false, reason: 'in-line' };
  const from = normalising(pairs.map((p) => p.from)), to = normalising(pairs.map((p) => p.to));
  const normal = new Float64Array(64), right = new Float64Array(8);
  const add = (row: readonly number[], value: number) => {
    for (let i = 0; i < 8; i++) {
      right[i] += row[i] * value;
      for (let k = 0; k < 8; k++) normal[8 * i + k] += row[i] * row[k];
    }
  };
  for (const pair of pairs) {
    const [x, y] = applyHomography(from, pair.from), [u, v] = applyHomography(to, pair.to);
    add([x, y, 1, 0, 0, 0, -u * x, -u * y], u);
    add([0, 0, 0, x, y, 1, -v * x, -v * y], v);
  }
  const solved = solve(normal, right);
  if (!solved) return { ok: false, reason: 'in-line' };
  let map = times(invertHomography(to), times([...solved, 1] as unknown as Homography, from));
  // On the side of the points that were given, depth is positive.
  if (depthAt(map, pairs[0].from) < 0) map = map.map((v) => -v) as unknown as Homography;
  return { ok: true, map, residuals: pairs.map((p) => { const [x, y] = applyHomography(map, p.from); return Math.hypot(x - p.to[0], y - p.to[1]); }) };
}

/** Do any three of the first four lie (nearly) in one line? */
function inLine(points: readonly Point[]): boolean {
  const four = points.slice(0, 4);
  const spread = Math.max(...four.flatMap((p) => four.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1]))));
  return four.some((_, skip) => {
    const [a, b, c] = four.filter((_, i) => i !== skip);
    return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) < IN_LINE * spread * spread;
  });
}

/** Gaussian elimination with pivots; null where the matrix is singular. */
function solve(matrix: Float64Array, right: Float64Array): number[] | null {
  const n = right.length, a = Float64Array.from(matrix), b = Float64Array.from(right);
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(a[n * r + c]) > Math.abs(a[n * pivot + c])) pivot = r;
    if (Math.abs(a[n * pivot + c]) < 1e-14) return null;
    for (let k = 0; k < n; k++) [a[n * c + k], a[n * pivot + k]] = [a[n * pivot + k], a[n * c + k]];
    [b[c], b[pivot]] = [b[pivot], b[c]];
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const f = a[n * r + c] / a[n * c + c];
      for (let k = c; k < n; k++) a[n * r + k] -= f * a[n * c + k];
      b[r] -= f * b[c];
    }
  }
  return Array.from(b, (v, i) => v / a[n * i + i]);
}

/** Four corners in their order round a rectangle: does the ring cross itself, or turn back? */
export function cornersCross(corners: readonly Point[]): boolean {
  const turns = corners.map((p, i) => {
    const q = corners[(i + 1) % 4], r = corners[(i + 2) % 4];
    return Math.sign((q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0]));
  });
  return turns.some((t) => t !== turns[0]);
}

export interface Straightening {
  /** Takes the straightened picture's pixels (y down) to the pixels of the photo (y down). */
  photoFromPicture: Homography;
  /** Size of the straightened picture, pixels. */
  width: number;
  height: number;
  millimetresPerPixel: number;
  /** Pixels at which the four corners lie in it. */
  corners: [number, number][];
  /** How far the further points miss their places, millimetres. */
  misses: number[];
  /** How far off a corner of the picture may be by the picks alone (95 %), millimetres. */
  across: number;
}

/** A further point of the photo whose place in the rectangle is known: along its first side from the first corner, and away from that side, millimetres. */
export interface FurtherPoint { at: Point; along: number; away: number }

/** How far beyond the rectangle the straightened picture reaches, as a share of its sides. */
const BEYOND = 1;
const MOST_PIXELS = 12e6;
/** Points of the photo's edge that are followed to find what it shows. */
const EDGE_STEPS = 24;

/**
 * The picture that a photo straightens to, when four of its points (pixels, y down, in order round) are the corners of
 * a rectangle of this width (first to second) and height (second to third), millimetres; as fine as the photo is.
 * Further points are fitted with them by least squares. `sigma`: how well each point was picked, pixels.
 */
export function straighten(corners: readonly Point[], width: number, height: number, photo: { width: number; height: number }, further: readonly FurtherPoint[] = [], sigma: readonly number[] = []): Straightening | { reason: 'cross' | 'in-line' } {
  if (cornersCross(corners)) return { reason: 'cross' };
  // Seen from above the corners go round the same way as on the photo.
  const target: Point[] = [[0, 0], [width, 0], [width, height], [0, height]];
  const clockwise = (corners[1][0] - corners[0][0]) * (corners[2][1] - corners[1][1]) - (corners[1][1] - corners[0][1]) * (corners[2][0] - corners[1][0]) > 0;
  const inPlace = ([x, y]: Point): Point => (clockwise ? [x, y] : [x, height - y]);
  const rectangle = target.map(inPlace);
  const pairs = [...corners.map((from, i) => ({ from, to: rectangle[i] })), ...further.map((f) => ({ from: f.at, to: inPlace([f.along, f.away]) }))];
  const fit = fitHomography(pairs);
  if (!fit.ok) return { reason: 'in-line' };
  let [x0, y0, x1, y1] = [0, 0, width, height];
  const deepest = Math.max(...corners.map((c) => depthAt(fit.map, c)));
  for (let i = 0; i <= EDGE_STEPS; i++) {
    const t = i / EDGE_STEPS;
    for (const p of [[t * photo.width, 0], [t * photo.width, photo.height], [0, t * photo.height], [photo.width, t * photo.height]] as Point[]) {
      if (depthAt(fit.map, p) < 0.05 * deepest) continue;
      const [x, y] = applyHomography(fit.map, p);
      x0 = Math.min(x0, Math.max(x, -BEYOND * width));
      x1 = Math.max(x1, Math.min(x, (1 + BEYOND) * width));
      y0 = Math.min(y0, Math.max(y, -BEYOND * height));
      y1 = Math.max(y1, Math.min(y, (1 + BEYOND) * height));
    }
  }
  const side = (i: number) => Math.hypot(corners[(i + 1) % 4][0] - corners[i][0], corners[(i + 1) % 4][1] - corners[i][1]);
  const finest = Math.min(width / Math.max(side(0), side(2)), height / Math.max(side(1), side(3)));
  const millimetresPerPixel = Math.max(finest, Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_PIXELS));
  const truth: Homography = [millimetresPerPixel, 0, x0, 0, millimetresPerPixel, y0, 0, 0, 1];
  return {
    photoFromPicture: times(invertHomography(fit.map), truth), millimetresPerPixel,
    width: Math.max(1, Math.round((x1 - x0) / millimetresPerPixel)), height: Math.max(1, Math.round((y1 - y0) / millimetresPerPixel)),
    corners: rectangle.map(([x, y]) => [(x - x0) / millimetresPerPixel, (y - y0) / millimetresPerPixel]),
    misses: fit.residuals.slice(4),
    across: pickError(pairs, sigma, [[x0, y0], [x1, y0], [x1, y1], [x0, y1]]),
  };
}

/**
 * The circle that holds 95 of 100 outcomes at the worst of the given places (millimetres), when every point is picked
 * with its own uncertainty: each pick is moved by a standard deviation either way, and the moves add up as variances.
 * Points that miss by more than that make everything less sure.
 */
function pickError(pairs: readonly CommonPoints[], sigma: readonly number[], places: readonly Point[]): number {
  const base = fitHomography(pairs);
  if (!base.ok || sigma.length === 0) return 0;
  const back = invertHomography(base.map);
  const moved = (i: number, dx: number, dy: number) => fitHomography(pairs.map((p, k): CommonPoints => (k === i ? { ...p, from: [p.from[0] + dx, p.from[1] + dy] } : p)));
  const sums = places.map(() => [0, 0, 0]);
  pairs.forEach((_, i) => {
    const s = sigma[i] ?? sigma[sigma.length - 1];
    for (const [dx, dy] of [[s, 0], [0, s]]) {
      const [plus, minus] = [moved(i, dx, dy), moved(i, -dx, -dy)];
      if (!plus.ok || !minus.ok) continue;
      places.forEach((place, k) => {
        const on = applyHomography(back, place);
        const [ax, ay] = applyHomography(plus.map, on), [bx, by] = applyHomography(minus.map, on);
        const [ex, ey] = [(ax - bx) / 2, (ay - by) / 2];
        sums[k][0] += ex * ex;
        sums[k][1] += ex * ey;
        sums[k][2] += ey * ey;
      });
    }
  });
  // Each point gives two equations, a perspective takes eight.
  const freedom = 2 * pairs.length - 8;
  const perPixel = pairs.map((p, i) => {
    const [x, y] = applyHomography(base.map, [p.from[0] + (sigma[i] ?? sigma[sigma.length - 1]), p.from[1]]), [u, v] = applyHomography(base.map, p.from);
    return Math.hypot(x - u, y - v);
  });
  const chi2 = base.residuals.reduce((sum, r, i) => sum + (r / Math.max(1e-9, perPixel[i])) ** 2, 0);
  const k = freedom > 0 ? Math.max(1, chi2 / freedom) : 1;
  return Math.max(...sums.map(([xx, xy, yy]) => {
    const middle = (xx + yy) / 2, half = Math.hypot((xx - yy) / 2, xy);
    return radius95(Math.sqrt(k * (middle + half)), Math.sqrt(k * Math.max(0, middle - half)));
  }));
}
