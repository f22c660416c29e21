import {
  applyTransform,
  subtractIntervals,
  type Interval,
  type Point,
  type Transform,
} from '../../geometry/index.ts';
import type { ProposedWall } from '../types.ts';

/** A straight wall by its middle line, on the plane. */
export interface Band {
  /** Its number among the walls. */
  n: number;
  from: Point;
  to: Point;
  ux: number;
  uy: number;
  length: number;
  thickness: number;
}

/** Sine of the angle within which walls run as one another. */
const SAME_WAY = 0.02;
/** Thicknesses are the same within these, millimetres and shares. */
const SAME_THICK = { mm: 8, share: 0.05 };

export const bandBetween = (n: number, from: Point, to: Point, thickness: number): Band => {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  return {
    n,
    from,
    to,
    ux: (to[0] - from[0]) / length,
    uy: (to[1] - from[1]) / length,
    length,
    thickness,
  };
};

/** A wall that is seen by its middle line on the plane, running to the right, or up; of a bent one its chord. */
export function bandOn(w: ProposedWall, n: number, placement: Transform): Band {
  const [p, q] = [applyTransform(placement, w.from), applyTransform(placement, w.to)],
    [dx, dy] = [q[0] - p[0], q[1] - p[1]],
    isForward = (Math.abs(dx) > Math.abs(dy) ? dx : dy) > 0;
  return isForward ? bandBetween(n, p, q, w.thickness) : bandBetween(n, q, p, w.thickness);
}

/** The straight walls of an issue. */
export const bandsOn = (walls: readonly ProposedWall[], placement: Transform): Band[] =>
  walls.flatMap((w, n) => {
    const band = bandOn(w, n, placement);
    return w.arc || !(band.length > 0) ? [] : [band];
  });

export const isParallel = (a: Band, b: Band): boolean => Math.abs(a.ux * b.uy - a.uy * b.ux) < SAME_WAY;

export const isAsThick = (a: number, b: number): boolean =>
  Math.abs(a - b) <= Math.max(SAME_THICK.mm, SAME_THICK.share * Math.max(a, b));

/** Where a point lies: along a band, and to the left of its middle. */
export const localTo = ({ from, ux, uy }: Band, [x, y]: Point): [number, number] => [
  (x - from[0]) * ux + (y - from[1]) * uy,
  (y - from[1]) * ux - (x - from[0]) * uy,
];

/** How far the middle of a parallel band lies to the left of another's, by its own middle. */
export function offsetOf(a: Band, b: Band): number {
  return localTo(a, [(b.from[0] + b.to[0]) / 2, (b.from[1] + b.to[1]) / 2])[1];
}

/** The part of a band beside which another lies. */
export function besideOf(a: Band, b: Band): Interval | null {
  const s = localTo(a, b.from)[0],
    e = localTo(a, b.to)[0],
    from = Math.max(0, Math.min(s, e)),
    to = Math.min(a.length, Math.max(s, e));
  return to > from ? [from, to] : null;
}

/** The parts of a band that none of others covers. */
export const uncoveredBy = (a: Band, others: readonly Band[], covers: (b: Band) => boolean): Interval[] =>
  subtractIntervals(
    [[0, a.length]],
    others.flatMap((b) => {
      const part = isParallel(a, b) && covers(b) ? besideOf(a, b) : null;
      return part ? [part] : [];
    }),
  );

export const lengthOf = (parts: readonly Interval[]): number => parts.reduce((sum, [a, b]) => sum + b - a, 0);
