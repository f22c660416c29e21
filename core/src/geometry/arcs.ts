import type { Point } from './spaces.ts';

export const TAU = 2 * Math.PI;

/** A circular arc, counter-clockwise from `start` to `end` (radians, end > start, end - start <= 2 pi). */
export interface Arc {
  cx: number;
  cy: number;
  r: number;
  start: number;
  end: number;
}

/** The circle through three points, or null when they lie (nearly) on a line. */
export function circleThrough(a: Point, b: Point, c: Point): { cx: number; cy: number; r: number } | null {
  const bx = b[0] - a[0],
    by = b[1] - a[1],
    cx = c[0] - a[0],
    cy = c[1] - a[1];
  const d = 2 * (bx * cy - by * cx);
  if (Math.abs(d) < 1e-12 * (bx * bx + by * by + cx * cx + cy * cy)) return null;
  const b2 = bx * bx + by * by,
    c2 = cx * cx + cy * cy;
  const ux = (cy * b2 - by * c2) / d,
    uy = (bx * c2 - cx * b2) / d;
  return { cx: a[0] + ux, cy: a[1] + uy, r: Math.hypot(ux, uy) };
}

/** An angle brought into [0, 2 pi). */
export function normalAngle(a: number): number {
  const m = a % TAU;
  return m < 0 ? m + TAU : m;
}

export const pointOnArc = (arc: Arc, angle: number): [number, number] => [
  arc.cx + arc.r * Math.cos(angle),
  arc.cy + arc.r * Math.sin(angle),
];

/** Is the angle within the arc's sweep? */
export function arcHasAngle(start: number, end: number, angle: number): boolean {
  return normalAngle(angle - start) <= end - start + 1e-12;
}
