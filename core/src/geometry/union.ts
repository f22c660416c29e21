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

/** Union of polygons, exact to the grid. Empty rings are ignored. */
export function unionOf(polygons: readonly Ring[]): Polygon[] {
  const real = polygons.filter((ring) => ring.length > 2);
  if (real.length === 0) return [];
  const box = boxOfPoints(real.flat());
  const ox = Math.round((box[0] + box[2]) / 2),
    oy = Math.round((box[1] + box[3]) / 2);
  let failure: unknown;
  for (const grid of GRIDS) {
    const snap = (v: number) => Math.round(v / grid) * grid;
    const local = real.map((ring) => [ring.map(([x, y]): [number, number] => [snap(x - ox), snap(y - oy)])]);
    try {
      const [first, ...rest] = local;
      return polygonClipping
        .union(first, ...rest)
        .map((polygon) =>
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

/** Drops the repeated last point and points that lie on the line between their neighbours. */
function cleanRing(ring: Point[]): Point[] {
  let points = ring;
  const [a, z] = [points[0], points[points.length - 1]];
  if (points.length > 1 && a[0] === z[0] && a[1] === z[1]) points = points.slice(0, -1);
  for (let again = true; again && points.length > 2;) {
    const kept = points.filter((p, i) => {
      const q = points[(i + points.length - 1) % points.length],
        r = points[(i + 1) % points.length];
      const length = Math.hypot(r[0] - q[0], r[1] - q[1]);
      const area = Math.abs((p[0] - q[0]) * (r[1] - q[1]) - (p[1] - q[1]) * (r[0] - q[0]));
      return !(length === 0 ? true : area / length < FLAT);
    });
    // Neighbouring flat points are judged against each other: go round again until nothing changes.
    again = kept.length < points.length && kept.length > 2;
    if (kept.length > 2) points = kept;
  }
  return points;
}
