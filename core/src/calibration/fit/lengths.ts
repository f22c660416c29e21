import type { SheetPoint } from '../../geometry/index.ts';

/** A length between two points of a sheet that someone knows. */
export interface KnownLength {
  from: SheetPoint;
  to: SheetPoint;
  /** True length, millimetres. */
  millimetres: number;
  /** How well each pick is known: standard deviations, sheet points. */
  sigma: readonly [number, number];
  /** How well the length itself is known: standard deviation, millimetres. */
  lengthSigma: number;
}

/** How paper may differ from the truth: one scale; one for the width and one for the height; sheared as well. */
export const FIT_MODELS = ['uniform', 'directional', 'affine'] as const;
export type FitModel = (typeof FIT_MODELS)[number];
export const PARAMETERS: Record<FitModel, number> = { uniform: 1, directional: 2, affine: 3 };

/**
 * The symmetric part of a placement, [a, b, c] for the matrix [[a, c], [c, b]], millimetres per sheet point:
 * a stretch d of the sheet is |A d| long. The turn is no matter of lengths.
 */
export type Stretching = readonly [a: number, b: number, c: number];

export interface LengthFit {
  model: FitModel;
  stretching: Stretching;
  /** Covariance of a, b, c (row by row); zero where the model ties or leaves out one. */
  covariance: readonly number[];
  /** For each length: measured less true, millimetres, and the same in its own standard deviations. */
  residuals: { millimetres: number; sigmas: number }[];
  /** Weighted sum of squares, and how many lengths there are more than the model needs. */
  chi2: number;
  freedom: number;
}

export type FitRefusal =
  | 'none'
  | 'points-together'
  | 'length-not-positive'
  | 'too-few'
  | 'one-direction'
  | 'two-directions'
  | 'wild';
export type FitOutcome =
  | { ok: true; fit: LengthFit }
  | { ok: false; reason: FitRefusal; /** Number of the length that is at fault, if one is. */ at?: number };

/** Picks nearer than this (sheet points) are one point. */
const TOGETHER = 0.05;
const ROUNDS = 20;
const SETTLED = 1e-13;
/** Information about a scale that is this much less than the best known one's is none. */
const NO_INFORMATION = 1e-5;

export function lengthOf([a, b, c]: Stretching, from: SheetPoint, to: SheetPoint): number {
  const dx = to[0] - from[0],
    dy = to[1] - from[1];
  return Math.hypot(a * dx + c * dy, c * dx + b * dy);
}

/** Standard deviation of a known length against the sheet, millimetres, at a scale of millimetres per point. */
export const sigmaOf = (k: KnownLength, perPoint: number): number =>
  Math.sqrt(k.lengthSigma ** 2 + perPoint ** 2 * (k.sigma[0] ** 2 + k.sigma[1] ** 2));

/** The least-squares fit of a model to known lengths, weighted by how well each is known (Gauss-Newton). */
export function fitLengths(known: readonly KnownLength[], model: FitModel): FitOutcome {
  if (known.length === 0) return { ok: false, reason: 'none' };
  for (const [at, k] of known.entries()) {
    if (!(Math.hypot(k.to[0] - k.from[0], k.to[1] - k.from[1]) >= TOGETHER))
      return { ok: false, reason: 'points-together', at };
    if (!(k.millimetres > 0) || !Number.isFinite(k.millimetres))
      return { ok: false, reason: 'length-not-positive', at };
  }
  const n = PARAMETERS[model];
  if (known.length < n) return { ok: false, reason: 'too-few' };
  const start = startingScale(known);
  const sigmas = known.map((k) => sigmaOf(k, start));
  let p: Stretching = [start, start, 0];
  let normal = new Array<number>(n * n).fill(0);
  for (let round = 0; round < ROUNDS; round++) {
    normal = new Array<number>(n * n).fill(0);
    const right = new Array<number>(n).fill(0);
    known.forEach((k, i) => {
      const row = derivatives(p, k, model),
        r = (k.millimetres - lengthOf(p, k.from, k.to)) / sigmas[i];
      for (let u = 0; u < n; u++) {
        right[u] += (row[u] / sigmas[i]) * r;
        for (let v = 0; v < n; v++) normal[u * n + v] += (row[u] / sigmas[i]) * (row[v] / sigmas[i]);
      }
    });
    const inverse = invertSymmetric(normal, n);
    if (!inverse) return { ok: false, reason: model === 'directional' ? 'one-direction' : 'two-directions' };
    const step = Array.from({ length: n }, (_, u) =>
      right.reduce((sum, v, k) => sum + inverse[u * n + k] * v, 0),
    );
    p =
      model === 'uniform'
        ? [p[0] + step[0], p[0] + step[0], 0]
        : model === 'directional'
          ? [p[0] + step[0], p[1] + step[1], 0]
          : [p[0] + step[0], p[1] + step[1], p[2] + step[2]];
    if (!(p[0] > 0 && p[1] > 0 && p[0] * p[1] > p[2] * p[2])) return { ok: false, reason: 'wild' };
    if (Math.max(...step.map(Math.abs)) < SETTLED * start) break;
  }
  const residuals = known.map((k, i) => {
    const millimetres = lengthOf(p, k.from, k.to) - k.millimetres;
    return { millimetres, sigmas: millimetres / sigmas[i] };
  });
  return {
    ok: true,
    fit: {
      model,
      stretching: p,
      covariance: spreadOut(invertSymmetric(normal, n)!, model),
      residuals,
      chi2: residuals.reduce((s, r) => s + r.sigmas ** 2, 0),
      freedom: known.length - n,
    },
  };
}

/** The weighted mean scale, for a start. */
function startingScale(known: readonly KnownLength[]): number {
  let pm = 0,
    pp = 0;
  for (const k of known) {
    const points = Math.hypot(k.to[0] - k.from[0], k.to[1] - k.from[1]);
    pm += points * k.millimetres;
    pp += points * points;
  }
  return pm / pp;
}

function derivatives(p: Stretching, { from, to }: KnownLength, model: FitModel): number[] {
  const dx = to[0] - from[0],
    dy = to[1] - from[1];
  const vx = p[0] * dx + p[2] * dy,
    vy = p[2] * dx + p[1] * dy,
    length = Math.hypot(vx, vy);
  const da = (vx * dx) / length,
    db = (vy * dy) / length;
  return model === 'uniform'
    ? [da + db]
    : model === 'directional'
      ? [da, db]
      : [da, db, (vx * dy + vy * dx) / length];
}

/** Inverse of a small symmetric matrix, or null where a direction of it is (nearly) unknown. */
function invertSymmetric(m: readonly number[], n: number): number[] | null {
  // Scaled to ones on the diagonal, so that being singular does not depend on units.
  const d = Array.from({ length: n }, (_, i) => Math.sqrt(m[i * n + i]));
  const most = Math.max(...d);
  if (d.some((v) => !(v > NO_INFORMATION * most))) return null;
  const a = m.map((v, k) => v / (d[Math.floor(k / n)] * d[k % n]));
  const out = Array.from({ length: n * n }, (_, k) => (k % (n + 1) === 0 ? 1 : 0));
  for (let c = 0; c < n; c++) {
    if (!(a[c * n + c] > NO_INFORMATION)) return null;
    const pivot = a[c * n + c];
    for (let k = 0; k < n; k++) {
      a[c * n + k] /= pivot;
      out[c * n + k] /= pivot;
    }
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const f = a[r * n + c];
      for (let k = 0; k < n; k++) {
        a[r * n + k] -= f * a[c * n + k];
        out[r * n + k] -= f * out[c * n + k];
      }
    }
  }
  return out.map((v, k) => v / (d[Math.floor(k / n)] * d[k % n]));
}

/** A model's covariance as that of a, b and c. */
function spreadOut(m: readonly number[], model: FitModel): number[] {
  if (model === 'affine') return [...m];
  if (model === 'directional') return [m[0], m[1], 0, m[2], m[3], 0, 0, 0, 0];
  return [m[0], m[0], 0, m[0], m[0], 0, 0, 0, 0];
}
