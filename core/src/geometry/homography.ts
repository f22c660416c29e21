import type { Point } from './spaces.ts';

/** A point that lies at `from` and ought to lie at `to`. */
export interface CommonPoints {
  from: Point;
  to: Point;
}

/** A perspective map, row by row: (x, y) goes to ((h₀x + h₁y + h₂) / w, (h₃x + h₄y + h₅) / w), w = h₆x + h₇y + h₈. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

export type HomographyOutcome =
  | {
      ok: true;
      map: Homography;
      /** How far each pair misses, in units of the target. */ residuals: number[];
    }
  | { ok: false; reason: 'too-few' | 'in-line' };

/** Corners nearer to a line than this share of their spread do not tell a perspective. */
const IN_LINE = 0.02;

export function applyHomography(h: Homography, [x, y]: Point): [number, number] {
  const w = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

/** Positive on the side of the horizon that the picture shows. */
export const depthAt = (h: Homography, [x, y]: Point): number => h[6] * x + h[7] * y + h[8];

/** The map that does `b` first, then `a`. */
export const composeHomographies = (a: Homography, b: Homography): Homography =>
  Array.from({ length: 9 }, (_, i) => {
    const r = 3 * Math.floor(i / 3),
      c = i % 3;
    return a[r] * b[c] + a[r + 1] * b[c + 3] + a[r + 2] * b[c + 6];
  }) as unknown as Homography;

/** The inverse map, by the adjugate: scale does not matter to a homography. */
export function invertHomography([a, b, c, d, e, f, g, h, i]: Homography): Homography {
  return [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
}

/** Moves points to their middle and scales them to a mean distance of √2, as the numbers need it (Hartley 1997). */
function normalising(points: readonly Point[]): Homography {
  const n = points.length,
    mx = points.reduce((s, p) => s + p[0], 0) / n,
    my = points.reduce((s, p) => s + p[1], 0) / n;
  const k = Math.SQRT2 / (points.reduce((s, p) => s + Math.hypot(p[0] - mx, p[1] - my), 0) / n || 1);
  return [k, 0, -k * mx, 0, k, -k * my, 0, 0, 1];
}

/**
 * The perspective that takes four or more points to where they ought to be: the direct linear transformation on
 * normalised points, by least squares (Hartley and Zisserman, Multiple View Geometry, 4.1 and 4.4).
 */
export function fitHomography(pairs: readonly CommonPoints[]): HomographyOutcome {
  if (pairs.length < 4) return { ok: false, reason: 'too-few' };
  if (inLine(pairs.map((p) => p.from)) || inLine(pairs.map((p) => p.to)))
    return { ok: false, reason: 'in-line' };
  const from = normalising(pairs.map((p) => p.from)),
    to = normalising(pairs.map((p) => p.to));
  const normal = new Float64Array(64),
    right = new Float64Array(8);
  const add = (row: readonly number[], value: number) => {
    for (let i = 0; i < 8; i++) {
      right[i] += row[i] * value;
      for (let k = 0; k < 8; k++) normal[8 * i + k] += row[i] * row[k];
    }
  };
  for (const pair of pairs) {
    const [x, y] = applyHomography(from, pair.from),
      [u, v] = applyHomography(to, pair.to);
    add([x, y, 1, 0, 0, 0, -u * x, -u * y], u);
    add([0, 0, 0, x, y, 1, -v * x, -v * y], v);
  }
  const solved = solve(normal, right);
  if (!solved) return { ok: false, reason: 'in-line' };
  let map = composeHomographies(
    invertHomography(to),
    composeHomographies([...solved, 1] as unknown as Homography, from),
  );
  // On the side of the points that were given, depth is positive.
  if (depthAt(map, pairs[0].from) < 0) map = map.map((v) => -v) as unknown as Homography;
  return {
    ok: true,
    map,
    residuals: pairs.map((p) => {
      const [x, y] = applyHomography(map, p.from);
      return Math.hypot(x - p.to[0], y - p.to[1]);
    }),
  };
}

/** Do any three of the first four lie (nearly) in one line? */
function inLine(points: readonly Point[]): boolean {
  const four = points.slice(0, 4);
  const spread = Math.max(...four.flatMap((p) => four.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1]))));
  return four.some((_, skip) => {
    const [a, b, c] = four.filter((_, i) => i !== skip);
    return (
      Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) < IN_LINE * spread * spread
    );
  });
}

/** Gaussian elimination with pivots; null where the matrix is singular. */
function solve(matrix: Float64Array, right: Float64Array): number[] | null {
  const n = right.length,
    a = Float64Array.from(matrix),
    b = Float64Array.from(right);
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
