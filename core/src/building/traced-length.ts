import type { Point } from '../geometry/index.ts';
import { looseElements, piecesOf, type Model } from '../model/index.ts';
import { bandOf } from './wall-geometry.ts';

/** An edge this far from a dimension's end, millimetres, is what it was meant to lie on. */
const NEAR = 60;
/** Edges are upright to the dimension within this sine. */
const UPRIGHT = 0.02;

/**
 * What a dimension measures in the trace: between the traced edges (faces and ends of walls, lines and their ends) that lie
 * nearest to its two ends, along its own direction. Null where no edge is near to one of them. Plane millimetres.
 */
export function tracedLength(model: Model, planeId: string, from: Point, to: Point): number | null {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length === 0) return null;
  const ux = (to[0] - from[0]) / length,
    uy = (to[1] - from[1]) / length;
  let start: number | null = null,
    end: number | null = null;
  const offer = (t: number) => {
    if (Math.abs(t) <= NEAR && (start === null || Math.abs(t) < Math.abs(start))) start = t;
    if (Math.abs(t - length) <= NEAR && (end === null || Math.abs(t - length) < Math.abs(end - length)))
      end = t;
  };
  for (const e of looseElements(model, planeId)) {
    // What is only told of the drawing (texts, dimensions) is no edge of it.
    if (e.type === 'dimension') continue;
    const { left, right } = e.type === 'wall' ? bandOf(e) : { left: 0, right: 0 };
    for (const piece of piecesOf(e))
      if (piece.kind === 'segment') offerEdge(piece.from, piece.to, left, right);
  }
  return start === null || end === null ? null : end - start;

  function offerEdge(p: Point, q: Point, left: number, right: number): void {
    const dx = q[0] - p[0],
      dy = q[1] - p[1],
      own = Math.hypot(dx, dy);
    if (own === 0) return;
    const along = (r: Point) => (r[0] - from[0]) * ux + (r[1] - from[1]) * uy;
    const cosine = (dx * ux + dy * uy) / own,
      sine = (dx * uy - dy * ux) / own;
    if (Math.abs(cosine) <= UPRIGHT) {
      // The normal to the left of the edge, seen along the dimension.
      const normal = (-dy * ux + dx * uy) / own;
      offer(along(p) + normal * left);
      offer(along(p) - normal * right);
    } else if (Math.abs(sine) <= UPRIGHT) {
      offer(along(p));
      offer(along(q));
    }
  }
}
