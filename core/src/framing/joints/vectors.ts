import { cross3, dot3, type ModelPoint } from '../../geometry/index.ts';

export const along = (p: ModelPoint, way: ModelPoint, by: number): ModelPoint => [
  p[0] + by * way[0],
  p[1] + by * way[1],
  p[2] + by * way[2],
];
export const times = (v: ModelPoint, k: number): ModelPoint => [k * v[0], k * v[1], k * v[2]];
export const plus = (a: ModelPoint, b: ModelPoint): ModelPoint => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
/** Of length one; null for what has none. */
export function unit(v: ModelPoint): ModelPoint | null {
  const length = Math.hypot(...v);
  return length < 1e-9 ? null : times(v, 1 / length);
}
/** A direction without what of it goes along another of length one. */
export const without = (v: ModelPoint, way: ModelPoint): ModelPoint => along(v, way, -dot3(v, way));
/** Some direction that is square to another of length one. */
export function perpendicular(way: ModelPoint): ModelPoint {
  const c = cross3(way, Math.abs(way[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]),
    length = Math.hypot(...c);
  return times(c, 1 / length);
}
