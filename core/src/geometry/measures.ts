import { footOnLine } from './near.ts';
import type { Point } from './spaces.ts';

/** The angle at a corner between the ways to two points, radians from 0 to π; null where one of them is the corner. */
export function angleAt(corner: Point, p: Point, q: Point): number | null {
  const ax = p[0] - corner[0],
    ay = p[1] - corner[1],
    bx = q[0] - corner[0],
    by = q[1] - corner[1];
  if ((ax === 0 && ay === 0) || (bx === 0 && by === 0)) return null;
  return Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by));
}

/** Lines that differ by more than this do not run side by side, radians: a degree. */
const PARALLEL = Math.PI / 180;

/**
 * How far apart two lines run that are parallel within a degree, square across from a point of the first to the line that
 * carries the second; null where they are not parallel.
 */
export function betweenParallels(
  a: readonly [Point, Point],
  b: readonly [Point, Point],
  at: Point,
): { from: [number, number]; to: [number, number]; distance: number } | null {
  const turn = angleAt(
    [0, 0],
    [a[1][0] - a[0][0], a[1][1] - a[0][1]],
    [b[1][0] - b[0][0], b[1][1] - b[0][1]],
  );
  if (turn === null || Math.min(turn, Math.PI - turn) > PARALLEL) return null;
  const from = footOnLine(at, a[0], a[1]),
    to = footOnLine(from, b[0], b[1]);
  return { from, to, distance: Math.hypot(to[0] - from[0], to[1] - from[1]) };
}

/** Does a closed ring of straight sides cross, touch or fold back on itself anywhere but at its corners in turn? */
export function crossesItself(ring: readonly Point[]): boolean {
  const n = ring.length,
    at = (i: number) => ring[i % n];
  for (let i = 0; i < n; i++) {
    // A side and the next meet in their corner: they only must not run back over one another.
    const [a, b, c] = [at(i), at(i + 1), at(i + 2)];
    if (turn(a, b, c) === 0 && (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1]) < 0) return true;
    for (let j = i + 2; j < n; j++)
      if ((j + 1) % n !== i && sidesTouch([a, b], [at(j), at(j + 1)])) return true;
  }
  return false;
}

/** Above 0 where the way from a over b to c turns left. */
const turn = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

function sidesTouch([a, b]: readonly [Point, Point], [c, d]: readonly [Point, Point]): boolean {
  const [abc, abd, cda, cdb] = [turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)];
  if (((abc > 0 && abd < 0) || (abc < 0 && abd > 0)) && ((cda > 0 && cdb < 0) || (cda < 0 && cdb > 0)))
    return true;
  const within = (p: Point, q: Point, r: Point) =>
    Math.min(p[0], q[0]) <= r[0] &&
    r[0] <= Math.max(p[0], q[0]) &&
    Math.min(p[1], q[1]) <= r[1] &&
    r[1] <= Math.max(p[1], q[1]);
  return (
    (abc === 0 && within(a, b, c)) ||
    (abd === 0 && within(a, b, d)) ||
    (cda === 0 && within(c, d, a)) ||
    (cdb === 0 && within(c, d, b))
  );
}
