import type { Point } from '../spaces.ts';

/** A side of the outline: a unit normal that points inwards, the offset of its line along it, and how far it moves for each millimetre of height. */
export interface MovingSide {
  nx: number;
  ny: number;
  offset: number;
  speed: number;
}

/** A corner of a front that moves inwards, and the side that leaves it. */
export interface Corner {
  p: Point;
  side: number;
}
export type Front = Corner[];

/** Directions closer than this (sine) are parallel. */
const PARALLEL = 1e-9;

/** How a corner moves between two sides, for each millimetre of height; null where they run against one another. */
export function velocityOf(before: MovingSide, after: MovingSide): Point | null {
  const cross = before.nx * after.ny - before.ny * after.nx;
  if (Math.abs(cross) > PARALLEL)
    return [
      (before.speed * after.ny - after.speed * before.ny) / cross,
      (after.speed * before.nx - before.speed * after.nx) / cross,
    ];
  const along = before.nx * after.nx + before.ny * after.ny > 0;
  // Two sides in one line go on together where they rise alike.
  if (!along || Math.abs(before.speed - after.speed) > PARALLEL * Math.max(1, before.speed)) return null;
  return [after.nx * after.speed, after.ny * after.speed];
}

export const at = (front: Front, i: number): Corner =>
  front[((i % front.length) + front.length) % front.length];

export const distanceOf = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Twice the area that a front encloses. */
export const twiceArea = (front: Front): number =>
  front.reduce((sum, { p }, i) => {
    const q = at(front, i + 1).p;
    return sum + p[0] * q[1] - q[0] * p[1];
  }, 0);

/** How far along a side a point lies, from the side's first corner, and how far inside of it. */
export function besideSide(
  front: Front,
  j: number,
  p: Point,
): { along: number; length: number; inside: number } {
  const a = front[j].p,
    b = at(front, j + 1).p,
    length = distanceOf(a, b),
    [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length],
    [x, y] = [p[0] - a[0], p[1] - a[1]];
  return { along: x * ux + y * uy, length, inside: ux * y - uy * x };
}
