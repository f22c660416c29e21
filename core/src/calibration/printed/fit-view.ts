import { MM_PER_POINT, type SheetPoint } from '../../geometry/index.ts';

/** One length that a view prints: its ends on the sheet, what it says, and how far that may be off by rounding. */
export interface Sample {
  from: SheetPoint;
  to: SheetPoint;
  millimetres: number;
  half: number;
}

/** True millimetres per millimetre of paper, along the sheet's x and y. */
export interface ViewScale {
  x: number;
  y: number;
}

export interface ViewFit extends ViewScale {
  stretched: boolean;
  /** Relative, 95 %. */
  uncertainty: number;
  /** Spread of what is left over, sheet points. */
  noise: number;
}

/** Lines of a file are good to about this on the paper, sheet points. */
const FILE_NOISE = 0.02;
/** A figure weighs at most so many times what the usual one does. */
const SHARPEST = 4;
/** Directions that differ by less are one scale, whatever the figures say. */
const LEAST_STRETCH = 0.0015;
/** Of the length along an axis, at least this share lies along it. */
const ALONG = 0.95;

const paper = ({ from, to }: Sample): [number, number] => [
  Math.abs(to[0] - from[0]) * MM_PER_POINT,
  Math.abs(to[1] - from[1]) * MM_PER_POINT,
];

/** What the scale makes of a stretch, millimetres. */
export function lengthAt(scale: ViewScale, from: SheetPoint, to: SheetPoint): number {
  return Math.hypot((to[0] - from[0]) * scale.x, (to[1] - from[1]) * scale.y) * MM_PER_POINT;
}

export const alongX = (from: SheetPoint, to: SheetPoint): boolean =>
  Math.abs(to[0] - from[0]) >= ALONG * Math.hypot(to[0] - from[0], to[1] - from[1]);
export const alongY = (from: SheetPoint, to: SheetPoint): boolean =>
  Math.abs(to[1] - from[1]) >= ALONG * Math.hypot(to[0] - from[0], to[1] - from[1]);

/**
 * Fits the scale to lengths that agree: one factor by weighted least squares through the origin, and one for
 * each direction (Gauss-Newton on L = √((x dx)² + (y dy)²)) where the difference is larger than chance makes it.
 */
export function fitView(samples: readonly Sample[], start: ViewScale): ViewFit {
  const guess = Math.sqrt(start.x * start.y);
  const sharp = samples.map((s) => 1 / ((s.half * s.half) / 3 + (FILE_NOISE * MM_PER_POINT * guess) ** 2));
  // One figure with more decimals than the rest is no better witness than all of them.
  const usual = [...sharp].sort((a, b) => a - b)[Math.floor(sharp.length / 2)],
    weights = sharp.map((w) => Math.min(w, SHARPEST * usual));
  const one = uniform(samples, weights);
  const fits = [one];
  const byX = samples.filter((s) => alongX(s.from, s.to)).length,
    byY = samples.filter((s) => alongY(s.from, s.to)).length;
  if (byX >= 2 && byY >= 2 && samples.length >= 5) {
    const two = byDirection(samples, weights, start);
    const ratio = two.x / two.y - 1;
    if (Math.abs(ratio) > Math.max(LEAST_STRETCH, 4 * Math.hypot(two.sx / two.x, two.sy / two.y)))
      fits.unshift(two);
  }
  const [{ x, y, sx, sy }] = fits;
  const rest = samples
    .map(
      (s) => Math.abs(lengthAt({ x, y }, s.from, s.to) - s.millimetres) / (MM_PER_POINT * Math.sqrt(x * y)),
    )
    .sort((a, b) => a - b);
  return {
    x,
    y,
    stretched: fits.length > 1,
    uncertainty: 1.96 * Math.max(sx / x, sy / y),
    noise: 1.4826 * (rest[Math.floor(rest.length / 2)] ?? 0),
  };
}

interface Estimate extends ViewScale {
  sx: number;
  sy: number;
}

/** Variance of the weights' unit: what is left over says it, but never less than a tenth of what was expected. */
const unitVariance = (chi: number, freedom: number) => (freedom > 0 ? Math.max(0.01, chi / freedom) : 1);

function uniform(samples: readonly Sample[], weights: readonly number[]): Estimate {
  let pp = 0,
    pm = 0;
  samples.forEach((s, i) => {
    const p = Math.hypot(...paper(s));
    pp += weights[i] * p * p;
    pm += weights[i] * p * s.millimetres;
  });
  const f = pm / pp;
  const chi = samples.reduce(
    (sum, s, i) => sum + weights[i] * (f * Math.hypot(...paper(s)) - s.millimetres) ** 2,
    0,
  );
  const deviation = Math.sqrt(unitVariance(chi, samples.length - 1) / pp);
  return { x: f, y: f, sx: deviation, sy: deviation };
}

const ROUNDS = 8;

function byDirection(samples: readonly Sample[], weights: readonly number[], start: ViewScale): Estimate {
  let { x, y } = start,
    xx = 0,
    xy = 0,
    yy = 0,
    chi = 0;
  for (let round = 0; round < ROUNDS; round++) {
    xx = xy = yy = chi = 0;
    let bx = 0,
      by = 0;
    samples.forEach((s, i) => {
      const [dx, dy] = paper(s);
      const length = Math.hypot(x * dx, y * dy);
      const jx = (x * dx * dx) / length,
        jy = (y * dy * dy) / length,
        r = s.millimetres - length,
        w = weights[i];
      xx += w * jx * jx;
      xy += w * jx * jy;
      yy += w * jy * jy;
      bx += w * jx * r;
      by += w * jy * r;
      chi += w * r * r;
    });
    const det = xx * yy - xy * xy;
    if (!(det > 1e-12 * xx * yy)) break;
    x += (yy * bx - xy * by) / det;
    y += (xx * by - xy * bx) / det;
  }
  const det = xx * yy - xy * xy;
  const variance = unitVariance(chi, samples.length - 2);
  return { x, y, sx: Math.sqrt((variance * yy) / det), sy: Math.sqrt((variance * xx) / det) };
}
