import {
  applyHomography,
  composeHomographies,
  depthAt,
  fitHomography,
  invertHomography,
  sideOf,
  type CommonPoints,
  type Homography,
  type Point,
} from '../geometry/index.ts';
import { radius95 } from './fit/circular.ts';

/** Four corners in their order round a rectangle: does the ring cross itself, or turn back? */
export function cornersCross(corners: readonly Point[]): boolean {
  const turns = corners.map((p, i) => {
    const q = corners[(i + 1) % 4],
      r = corners[(i + 2) % 4];
    return Math.sign(sideOf(...p, ...q, ...r));
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
export interface FurtherPoint {
  at: Point;
  along: number;
  away: number;
}

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
export function straighten(
  corners: readonly Point[],
  width: number,
  height: number,
  photo: { width: number; height: number },
  further: readonly FurtherPoint[] = [],
  sigma: readonly number[] = [],
): Straightening | { reason: 'cross' | 'in-line' } {
  if (cornersCross(corners)) return { reason: 'cross' };
  // Seen from above the corners go round the same way as on the photo.
  const target: Point[] = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  const clockwise =
    (corners[1][0] - corners[0][0]) * (corners[2][1] - corners[1][1]) -
      (corners[1][1] - corners[0][1]) * (corners[2][0] - corners[1][0]) >
    0;
  const inPlace = ([x, y]: Point): Point => (clockwise ? [x, y] : [x, height - y]);
  const rectangle = target.map(inPlace);
  const pairs = [
    ...corners.map((from, i) => ({ from, to: rectangle[i] })),
    ...further.map((f) => ({ from: f.at, to: inPlace([f.along, f.away]) })),
  ];
  const fit = fitHomography(pairs);
  if (!fit.ok) return { reason: 'in-line' };
  let [x0, y0, x1, y1] = [0, 0, width, height];
  const deepest = Math.max(...corners.map((c) => depthAt(fit.map, c)));
  for (let i = 0; i <= EDGE_STEPS; i++) {
    const t = i / EDGE_STEPS;
    for (const p of [
      [t * photo.width, 0],
      [t * photo.width, photo.height],
      [0, t * photo.height],
      [photo.width, t * photo.height],
    ] as Point[]) {
      if (depthAt(fit.map, p) < 0.05 * deepest) continue;
      const [x, y] = applyHomography(fit.map, p);
      x0 = Math.min(x0, Math.max(x, -BEYOND * width));
      x1 = Math.max(x1, Math.min(x, (1 + BEYOND) * width));
      y0 = Math.min(y0, Math.max(y, -BEYOND * height));
      y1 = Math.max(y1, Math.min(y, (1 + BEYOND) * height));
    }
  }
  const side = (i: number) =>
    Math.hypot(corners[(i + 1) % 4][0] - corners[i][0], corners[(i + 1) % 4][1] - corners[i][1]);
  const finest = Math.min(width / Math.max(side(0), side(2)), height / Math.max(side(1), side(3)));
  const millimetresPerPixel = Math.max(finest, Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_PIXELS));
  const truth: Homography = [millimetresPerPixel, 0, x0, 0, millimetresPerPixel, y0, 0, 0, 1];
  return {
    photoFromPicture: composeHomographies(invertHomography(fit.map), truth),
    millimetresPerPixel,
    width: Math.max(1, Math.round((x1 - x0) / millimetresPerPixel)),
    height: Math.max(1, Math.round((y1 - y0) / millimetresPerPixel)),
    corners: rectangle.map(([x, y]) => [(x - x0) / millimetresPerPixel, (y - y0) / millimetresPerPixel]),
    misses: fit.residuals.slice(4),
    across: pickError(pairs, sigma, [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ]),
  };
}

/**
 * The circle that holds 95 of 100 outcomes at the worst of the given places (millimetres), when every point is picked
 * with its own uncertainty: each pick is moved by a standard deviation either way, and the moves add up as variances.
 * Points that miss by more than that make everything less sure.
 */
function pickError(
  pairs: readonly CommonPoints[],
  sigma: readonly number[],
  places: readonly Point[],
): number {
  const base = fitHomography(pairs);
  if (!base.ok || sigma.length === 0) return 0;
  const back = invertHomography(base.map);
  const moved = (i: number, dx: number, dy: number) =>
    fitHomography(
      pairs.map((p, k): CommonPoints => (k === i ? { ...p, from: [p.from[0] + dx, p.from[1] + dy] } : p)),
    );
  const sums = places.map(() => [0, 0, 0]);
  pairs.forEach((_, i) => {
    const s = sigma[i] ?? sigma[sigma.length - 1];
    for (const [dx, dy] of [
      [s, 0],
      [0, s],
    ]) {
      const [plus, minus] = [moved(i, dx, dy), moved(i, -dx, -dy)];
      if (!plus.ok || !minus.ok) continue;
      places.forEach((place, k) => {
        const on = applyHomography(back, place);
        const [ax, ay] = applyHomography(plus.map, on),
          [bx, by] = applyHomography(minus.map, on);
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
    const [x, y] = applyHomography(base.map, [p.from[0] + (sigma[i] ?? sigma[sigma.length - 1]), p.from[1]]),
      [u, v] = applyHomography(base.map, p.from);
    return Math.hypot(x - u, y - v);
  });
  const chi2 = base.residuals.reduce((sum, r, i) => sum + (r / Math.max(1e-9, perPixel[i])) ** 2, 0);
  const k = freedom > 0 ? Math.max(1, chi2 / freedom) : 1;
  return Math.max(
    ...sums.map(([xx, xy, yy]) => {
      const middle = (xx + yy) / 2,
        half = Math.hypot((xx - yy) / 2, xy);
      return radius95(Math.sqrt(k * (middle + half)), Math.sqrt(k * Math.max(0, middle - half)));
    }),
  );
}
