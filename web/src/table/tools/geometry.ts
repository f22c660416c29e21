import type { Point } from '@calque/core/geometry';

export const distance = (p: Point, q: Point) => Math.hypot(q[0] - p[0], q[1] - p[1]);
export const angleOf = (p: Point, q: Point) => Math.atan2(q[1] - p[1], q[0] - p[0]);

/** The point at a length and angle from another; either may be left as the cursor has it. */
export function pointAlong(from: Point, towards: Point, length: number | null, radians: number | null): [number, number] {
  const l = length ?? distance(from, towards);
  const a = radians ?? angleOf(from, towards);
  // Along the axes exactly, not to the last bit beside them.
  const clean = (v: number) => (Math.abs(v) < 1e-12 ? 0 : v);
  return [from[0] + l * clean(Math.cos(a)), from[1] + l * clean(Math.sin(a))];
}
