import polygonClipping from 'polygon-clipping';
import type { Point } from './spaces.ts';
import { partedAtPinches } from './pinches.ts';
import { boxOfPoints, ringArea, ringLength, type Ring } from './polygons.ts';

/** A polygon as an outer ring (counter-clockwise) and its holes; rings are not closed by a repeated point. */
export type Polygon = readonly Ring[];

/**
 * Grid that points are rounded to before a union, millimetres: the library decides near-degenerate
 * cases right on it, and 2^-20 mm is far below anything drawn. Where it throws, other turns are tried, then coarser grids.
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
  const real = others.filter((ring) => ring.length > 2).map((ring) => [ring]);
  if (real.length === 0) return combined([polygon], polygonClipping.union);
  const all = [polygon, ...real];
  // Where several lie along one line the library drops parts without a word: what is left and what is taken must make the whole.
  let taken: number | null = null;
  const isWhole = (left: Polygon[]) => {
    if (real.length === 1) return true;
    taken ??= areaTaken(all);
    if (taken === null) return true;
    const within = 4 * FLAT * all.flat().reduce((sum, ring) => sum + ringLength(ring), 0);
    return Math.abs(areaOf([polygon]) - areaOf(left) - taken) <= within;
  };
  return combined(all, (first, rest) => polygonClipping.difference(first, ...rest), isWhole).flatMap(
    partedAtPinches,
  );
}

/** What others take of the first of them; null where that cannot be told. */
function areaTaken(all: readonly Polygon[]): number | null {
  try {
    return areaOf(
      combined(all, (first, rest) =>
        polygonClipping.intersection(first, polygonClipping.union(rest[0], ...rest.slice(1))),
      ),
    );
  } catch {
    return null;
  }
}

const areaOf = (polygons: readonly Polygon[]) =>
  polygons.flat().reduce((sum, ring) => sum + ringArea(ring), 0);

/** What two polygons share, exact to the grid. */
export const sharedBy = (one: Polygon, other: Polygon): Polygon[] =>
  combined([one, other], (first, rest) => polygonClipping.intersection(first, ...rest));

/** How the plane is turned for each try: coordinates that meet a rounding fault as they are do not meet it from another side. */
const TRIES = GRIDS.flatMap((grid) => [0, 0.6, 2.2].map((turn) => ({ turn, grid })));

/** Polygons put together about their own middle, on the finest grid on which that can be done and comes out sound. */
function combined(
  polygons: readonly Polygon[],
  combine: Combine,
  isSound: (made: Polygon[]) => boolean = () => true,
): Polygon[] {
  if (polygons.length === 0 || polygons[0].length === 0) return [];
  const box = boxOfPoints(polygons.flatMap((rings) => rings.flat()));
  const ox = Math.round((box[0] + box[2]) / 2),
    oy = Math.round((box[1] + box[3]) / 2);
  let failure: unknown,
    first: Polygon[] | null = null;
  for (const { turn, grid } of TRIES) {
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    const snap = (v: number) => Math.round(v / grid) * grid,
      inwards = ([x, y]: Point): [number, number] => [
        snap(cos * (x - ox) - sin * (y - oy)),
        snap(sin * (x - ox) + cos * (y - oy)),
      ],
      outwards = ([x, y]: [number, number]): Point => [cos * x + sin * y + ox, cos * y - sin * x + oy];
    try {
      const [one, ...rest] = polygons.map((rings) => rings.map((ring) => ring.map(inwards)));
      const made = combine(one, rest)
        .map((polygon) =>
          polygon.map((ring) => cleanRing(ring.map(outwards))).filter((ring) => ring.length > 2),
        )
        .filter((polygon) => polygon.length > 0);
      if (isSound(made)) return made;
      first ??= made;
    } catch (error) {
      failure = error;
    }
  }
  if (first) return first;
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
      // The one before has another neighbour now, and so has the one after it.
      i = (i + n - 2) % (n - 1);
      kept = Math.max(0, Math.min(kept - 1, n - 3));
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
  return length < FLAT || Math.abs(ax * by - ay * bx) / length < FLAT;
}
