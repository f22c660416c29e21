import type { Point } from './spaces.ts';
import type { Transform } from './transform.ts';

/** The mirror image in the line through two points; null where they are one point. */
export function mirrorIn(a: Point, b: Point): Transform | null {
  const dx = b[0] - a[0],
    dy = b[1] - a[1],
    square = dx * dx + dy * dy;
  if (!(square > 0)) return null;
  const c = (dx * dx - dy * dy) / square,
    s = (2 * dx * dy) / square;
  return [c, s, s, -c, a[0] - c * a[0] - s * a[1], a[1] - s * a[0] + c * a[1]];
}
