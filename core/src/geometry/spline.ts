import { cubicPiece, type Piece } from './pieces.ts';
import type { Cubic } from './bezier.ts';
import type { Point } from './spaces.ts';

/**
 * Control points of a smooth curve through points: x0, handle, handle, x1, handle, handle, x2 … Each inner point's tangent
 * runs along the chord of its neighbours, each handle a third of its own chord's length (Catmull-Rom by chord lengths).
 * `tangents`: directions asked for at the first and the last point.
 */
export function splineThrough(
  points: readonly Point[],
  tangents: { first?: Point | null; last?: Point | null } = {},
  closed = false,
): [number, number][] {
  const n = points.length,
    ring = closed ? [...points, points[0]] : [...points];
  const chord = (i: number) => Math.hypot(ring[i + 1][0] - ring[i][0], ring[i + 1][1] - ring[i][1]);
  const unit = ([x, y]: Point): [number, number] => {
    const l = Math.hypot(x, y);
    return l === 0 ? [0, 0] : [x / l, y / l];
  };
  const between = (p: Point, q: Point): [number, number] => unit([q[0] - p[0], q[1] - p[1]]);
  const directions = ring.map((p, i): [number, number] => {
    if (closed) return between(points[(i - 1 + n) % n], points[(i + 1) % n]);
    if (i > 0 && i < n - 1) return between(ring[i - 1], ring[i + 1]);
    const asked = i === 0 ? tangents.first : tangents.last;
    if (asked) return unit(asked);
    if (n < 3) return between(ring[0], ring[n - 1]);
    // An end without a wish bends as the arc through its neighbours would: the inner tangent mirrored in the chord.
    const [a, b] = i === 0 ? [p, ring[1]] : [ring[n - 2], p];
    const inner = i === 0 ? between(ring[0], ring[2]) : between(ring[n - 3], ring[n - 1]);
    const c = between(a, b),
      along = inner[0] * c[0] + inner[1] * c[1];
    return unit([2 * along * c[0] - inner[0], 2 * along * c[1] - inner[1]]);
  });
  const out: [number, number][] = [[ring[0][0], ring[0][1]]];
  for (let i = 0; i + 1 < ring.length; i++) {
    const third = chord(i) / 3,
      [p, q] = [ring[i], ring[i + 1]],
      [d, e] = [directions[i], directions[i + 1]];
    out.push(
      [p[0] + third * d[0], p[1] + third * d[1]],
      [q[0] - third * e[0], q[1] - third * e[1]],
      [q[0], q[1]],
    );
  }
  return out;
}

/** The Béziers of a row of control points. */
export function splinePieces(controls: readonly Point[]): Piece[] {
  const out: Piece[] = [];
  for (let i = 0; i + 3 < controls.length; i += 3)
    out.push(
      cubicPiece([
        ...controls[i],
        ...controls[i + 1],
        ...controls[i + 2],
        ...controls[i + 3],
      ] as unknown as Cubic),
    );
  return out;
}
