import polygonClipping from 'polygon-clipping';
import type { Point } from './spaces.ts';
import { boxOfPoints, type Ring } from './polygons.ts';

/** A polygon as an outer ring (counter-clockwise) and its holes; rings are not closed by a repeated point. */
export type Polygon = readonly Ring[];

/**
 * Grid that points are rounded to before a union, millimetres: the library decides near-degenerate
 * cases right on it, and 2^-20 mm is far below anything drawn. Coarser ones are tried when it throws.
 */
const GRIDS = [2 ** -20, 2 ** -14, 2 ** -10];

type Combine = (first: Local, rest: Local[]) => [number, number][][][];
type Local = [number, number][][];

/** Union of polygons, exact to the grid. Empty rings are ignored. */
export function unionOf(polygons: readonly Ring[]): Polygon[] {
  const real = polygons.filter((ring) => ring.length > 2);
  return combined(
    real.map((ring) => [ring]),
    (first, rest) => polygonClipping.union(first, ...rest),
  );
}

/** What of a polygon (a ring with its holes) others leave of it, exact to the grid. */
export function differenceOf(polygon: Polygon, others: readonly Ring[]): Polygon[] {
  const real = others.filter((ring) => ring.length > 2);
  return combined([polygon, ...real.map((ring) => [ring])], (first, rest) =>
    rest.length === 0 ? polygonClipping.union(first) : polygonClipping.difference(first, ...rest),
  );
}

/** What two polygons share, exact to the grid. */
export const sharedBy = (one: Polygon, other: Polygon): Polygon[] =>
  combined([one, other], (first, rest) => polygonClipping.intersection(first, ...rest));

/** Polygons put together about their own middle, on the finest grid on which that can be done. */
function combined(polygons: readonly Polygon[], combine: Combine): Polygon[] {
  if (polygons.length === 0 || polygons[0].length === 0) return [];
  const box = boxOfPoints(polygons.flatMap((rings) => rings.flat()));
  const ox = Math.round((box[0] + box[2]) / 2),
    oy = Math.round((box[1] + box[3]) / 2);
  let failure: unknown;
  for (const grid of GRIDS) {
    const snap = (v: number) => Math.round(v / grid) * grid;
    const local = polygons.map((rings) =>
      rings.map((ring) => ring.map(([x, y]): [number, number] => [snap(x - ox), snap(y - oy)])),
    );
    try {
      const [first, ...rest] = local;
      return combine(first, rest).map((polygon) =>
        polygon
          .map((ring) => cleanRing(ring.map(([x, y]): Point => [x + ox, y + oy])))
          .filter((r) => r.length > 2),
      );
    } catch (error) {
      failure = error;
    }
  }
  throw failure instanceof Error ? failure : new Error(String(failure));
}

/** A corner whose point lies this near (millimetres) to the line of its neighbours is no corner. */
const FLAT = 1e-4;

/** Drops repeated points and those that lie on the line between their neighbours, one after the other: of two that are one, one stays. */
export function cleanRing(ring: Ring): Point[] {
  const points = [...ring];
  let kept = 0;
  // Round again and again, until a whole round has kept every point.
  for (let i = 0; points.length > 2 && kept < points.length;) {
    const n = points.length,
      [q, p, r] = [points[(i + n - 1) % n], points[i % n], points[(i + 1) % n]];
    if (isFlat(q, p, r)) {
      points.splice(i % n, 1);
      // The one before has another neighbour now.
      i = (i + n - 2) % (n - 1);
      kept = Math.max(0, kept - 1);
    } else {
      i = (i + 1) % n;
      kept++;
    }
  }
  return points;
}

function isFlat(q: Point, p: Point, r: Point): boolean {
  const [ax, ay] = [p[0] - q[0], p[1] - q[1]],
    [bx, by] = [r[0] - q[0], r[1] - q[1]],
    length = Math.hypot(bx, by);
  if (Math.hypot(ax, ay) < FLAT) return true;
  return length === 0 || Math.abs(ax * by - ay * bx) / length < FLAT;
}
