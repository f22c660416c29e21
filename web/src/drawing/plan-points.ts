import type { Point } from '@calque/core/geometry';
import type { Pair } from '@calque/core/model';
import { distance } from '@/table/tools/geometry';

export const pair = (p: Point): Pair => [p[0], p[1]];
/** A distance between picked points without the last bits that rounding left: what was typed stands as it was typed. */
export const clean = (mm: number) => Math.round(mm * 1e9) / 1e9;
/** The point at a distance from another on the way to the cursor. */
export const towards = (from: Point, to: Point, length: number): Point => {
  const d = distance(from, to);
  return d > 0
    ? [from[0] + (length * (to[0] - from[0])) / d, from[1] + (length * (to[1] - from[1])) / d]
    : [from[0] + length, from[1]];
};
export const positive = (value: number | string, what: string): number | string =>
  typeof value === 'string' || value > 0 ? value : `The ${what} must be above 0.`;
/** To the side of the way from one point to another: above 0 to the left. */
export const across = (a: Point, b: Point, p: Point) =>
  ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / distance(a, b);
