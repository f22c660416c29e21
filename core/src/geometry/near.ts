import { arcHasAngle, normalAngle, pointOnArc, type Arc } from './arcs.ts';
import { cubicAt, type Cubic } from './bezier.ts';
import type { Point } from './spaces.ts';

/** The point of a stretch that is nearest to (x, y). */
export function footOnSegment(
  x: number,
  y: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): [number, number] {
  const dx = x1 - x0,
    dy = y1 - y0;
  const len2 = dx * dx + dy * dy;
  const t = len2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - x0) * dx + (y - y0) * dy) / len2));
  return [x0 + t * dx, y0 + t * dy];
}

/** The point of the line through two points, however far it runs, that is nearest to a point. */
export function footOnLine([x, y]: Point, from: Point, to: Point): [number, number] {
  const dx = to[0] - from[0],
    dy = to[1] - from[1],
    t = ((x - from[0]) * dx + (y - from[1]) * dy) / (dx * dx + dy * dy);
  return [from[0] + t * dx, from[1] + t * dy];
}

/** The point of an arc that is nearest to (x, y). */
export function footOnArc(arc: Arc, x: number, y: number): [number, number] {
  const angle = Math.atan2(y - arc.cy, x - arc.cx);
  if (arcHasAngle(arc.start, arc.end, angle)) return pointOnArc(arc, angle);
  const toStart = normalAngle(arc.start - angle),
    fromEnd = normalAngle(angle - arc.end);
  return pointOnArc(arc, toStart < fromEnd ? arc.start : arc.end);
}

/** Where along a Bézier, 0 to 1, it is nearest to (x, y): the best of a row of samples, refined by halving around it. */
export function placeOnCubic(c: Cubic, x: number, y: number): number {
  let best = 0,
    bestDistance = Infinity;
  const distanceAt = (t: number) => {
    const p = cubicAt(c, t);
    return Math.hypot(p[0] - x, p[1] - y);
  };
  for (let i = 0; i <= 16; i++) {
    const d = distanceAt(i / 16);
    if (d < bestDistance) [best, bestDistance] = [i / 16, d];
  }
  for (let step = 1 / 32; step > 1e-7; step /= 2) {
    for (const t of [Math.max(0, best - step), Math.min(1, best + step)]) {
      const d = distanceAt(t);
      if (d < bestDistance) [best, bestDistance] = [t, d];
    }
  }
  return best;
}

/** The point of a Bézier that is nearest to (x, y). */
export const footOnCubic = (c: Cubic, x: number, y: number): [number, number] =>
  cubicAt(c, placeOnCubic(c, x, y));
