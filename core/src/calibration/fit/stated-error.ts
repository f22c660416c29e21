import type { Box, SheetPoint } from '../../geometry/index.ts';
import { NORMAL_95, PLANE_95, radius95 } from './circular.ts';
import { chi2Quantile } from './chi2.ts';
import type { KnownLength, LengthFit } from './lengths.ts';

/** An ellipse within which a point truly lies in 95 of 100 cases; plane millimetres before any turn. */
export interface ErrorEllipse {
  at: SheetPoint;
  major: number;
  minor: number;
  /** Of the long axis against the sheet's x. */ radians: number;
  /** The circle that holds as much. */ radius: number;
}

export interface StatedError {
  /** How far off a length of ten metres may be in the worst direction, millimetres, 95 %. */
  tenMetres: number;
  corners: ErrorEllipse[];
  /** How far off the worst of the corners may be, in whatever direction, millimetres, 95 %. */
  across: number;
}

/** Lengths that disagree by more than chance allows (1 in 100) make everything less sure. */
const UNLIKELY = 2.326348;

/** More than 1: what was picked disagrees more than the picks' own uncertainty explains. */
export function inflation({ chi2, freedom }: Pick<LengthFit, 'chi2' | 'freedom'>): number {
  return freedom > 0 && chi2 > chi2Quantile(freedom, UNLIKELY) ? chi2 / freedom : 1;
}

/** The middle of the picks, each weighed by how well it is known: the point whose place is surest. */
export function anchorOf(known: readonly KnownLength[]): SheetPoint {
  const all = known
    .flatMap(
      (k) =>
        [
          [k.from, k.sigma[0]],
          [k.to, k.sigma[1]],
        ] as const,
    )
    .map(([p, s]) => ({ p, w: 1 / Math.max(s, 1e-4) ** 2 }));
  const sum = all.reduce((s, { w }) => s + w, 0);
  return [
    all.reduce((s, { p, w }) => s + w * p[0], 0) / sum,
    all.reduce((s, { p, w }) => s + w * p[1], 0) / sum,
  ];
}

/** How far off the sheet may be, from the fit's covariance, seen from a point that lies right. */
export function statedError(fit: LengthFit, anchor: SheetPoint, crop: Box): StatedError {
  const k = inflation(fit);
  const corners = (
    [
      [crop[0], crop[1]],
      [crop[2], crop[1]],
      [crop[2], crop[3]],
      [crop[0], crop[3]],
    ] as const
  ).map((at) => ellipseAt(fit, anchor, at, k));
  return {
    tenMetres: worstRelative(fit) * Math.sqrt(k) * NORMAL_95 * 10000,
    corners,
    across: Math.max(...corners.map((c) => c.radius)),
  };
}

function ellipseAt(
  { covariance: c }: LengthFit,
  anchor: SheetPoint,
  at: SheetPoint,
  k: number,
): ErrorEllipse {
  const x = at[0] - anchor[0],
    y = at[1] - anchor[1];
  // Rows of the derivative of A q by a, b, c: (x, 0, y) and (0, y, x).
  const j = [
    [x, 0, y],
    [0, y, x],
  ];
  const cov = (u: number, v: number) =>
    k * j[u].reduce((sum, a, i) => sum + j[v].reduce((s, b, m) => s + a * c[3 * i + m] * b, 0), 0);
  const xx = cov(0, 0),
    xy = cov(0, 1),
    yy = cov(1, 1);
  const middle = (xx + yy) / 2,
    half = Math.hypot((xx - yy) / 2, xy);
  const long = Math.sqrt(Math.max(0, middle + half)),
    short = Math.sqrt(Math.max(0, middle - half));
  // What can only move along a line needs no ellipse.
  const line = short < 1e-4 * long;
  return {
    at,
    major: (line ? NORMAL_95 : PLANE_95) * long,
    minor: line ? 0 : PLANE_95 * short,
    radians: 0.5 * Math.atan2(2 * xy, xx - yy),
    radius: radius95(long, short),
  };
}

const DIRECTIONS = 36;

/** Relative standard deviation of a length in the direction that is known worst. */
function worstRelative({ stretching: [a, b, c], covariance }: LengthFit): number {
  let worst = 0;
  for (let i = 0; i < DIRECTIONS; i++) {
    const dx = Math.cos((i * Math.PI) / DIRECTIONS),
      dy = Math.sin((i * Math.PI) / DIRECTIONS);
    const vx = a * dx + c * dy,
      vy = c * dx + b * dy,
      length = Math.hypot(vx, vy);
    const j = [(vx * dx) / length, (vy * dy) / length, (vx * dy + vy * dx) / length];
    const variance = j.reduce(
      (sum, u, k) => sum + j.reduce((s, v, m) => s + u * covariance[3 * k + m] * v, 0),
      0,
    );
    worst = Math.max(worst, Math.sqrt(Math.max(0, variance)) / length);
  }
  return worst;
}
