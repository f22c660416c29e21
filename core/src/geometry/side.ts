import { orient2d } from 'robust-predicates';

/**
 * On which side of the line from (ax, ay) to (bx, by) a point lies: positive to its left with y up, negative to its right, 0 on it.
 * Its sign is exact for any finite coordinates (Shewchuk 1997, Adaptive Precision Floating-Point Arithmetic), so that what two
 * neighbours ask of their common edge agrees; its size is about twice the area of the triangle of the three.
 */
export const sideOf = (ax: number, ay: number, bx: number, by: number, x: number, y: number): number =>
  0 - orient2d(ax, ay, bx, by, x, y);
