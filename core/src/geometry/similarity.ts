import type { Point } from './spaces.ts';
import type { Transform } from './transform.ts';

export interface PointPair {
  from: Point;
  to: Point;
  weight: number;
}

/**
 * The similarity (turn, scale, shift; no mirror) that lays the first points onto the second with the least
 * weighted sum of squares, in closed form (Umeyama 1991, in two dimensions). Without `scaled` a turn and a shift
 * alone. Null when all points coincide.
 */
export function fitSimilarity(
  pairs: readonly PointPair[],
  scaled = true,
): { transform: Transform; residual: number } | null {
  let w = 0,
    fx = 0,
    fy = 0,
    tx = 0,
    ty = 0;
  for (const { from, to, weight } of pairs) {
    w += weight;
    fx += weight * from[0];
    fy += weight * from[1];
    tx += weight * to[0];
    ty += weight * to[1];
  }
  if (w === 0) return null;
  fx /= w;
  fy /= w;
  tx /= w;
  ty /= w;
  let dot = 0,
    cross = 0,
    spread = 0;
  for (const { from, to, weight } of pairs) {
    const ax = from[0] - fx,
      ay = from[1] - fy,
      bx = to[0] - tx,
      by = to[1] - ty;
    dot += weight * (ax * bx + ay * by);
    cross += weight * (ax * by - ay * bx);
    spread += weight * (ax * ax + ay * ay);
  }
  if (spread === 0) return null;
  const over = scaled ? spread : Math.hypot(dot, cross);
  if (over === 0) return null;
  const c = dot / over,
    s = cross / over;
  const transform: Transform = [c, s, -s, c, tx - c * fx + s * fy, ty - s * fx - c * fy];
  let squares = 0;
  for (const { from, to, weight } of pairs) {
    const dx = c * from[0] - s * from[1] + transform[4] - to[0],
      dy = s * from[0] + c * from[1] + transform[5] - to[1];
    squares += weight * (dx * dx + dy * dy);
  }
  return { transform, residual: Math.sqrt(squares / w) };
}
