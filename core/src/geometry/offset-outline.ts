import { ringArea, type Ring } from './polygons.ts';
import type { Point } from './spaces.ts';

/** Directions closer than this (sine) are one. */
const PARALLEL = 1e-9;

/** The point where two lines meet that run through points with directions; null where they run alike. */
export function meetingOf(p: Point, d: Point, q: Point, e: Point): Point | null {
  const cross = d[0] * e[1] - d[1] * e[0];
  if (Math.abs(cross) <= PARALLEL * Math.hypot(...d) * Math.hypot(...e)) return null;
  const t = ((q[0] - p[0]) * e[1] - (q[1] - p[1]) * e[0]) / cross;
  return [p[0] + t * d[0], p[1] + t * d[1]];
}

/**
 * An outline with each side moved outwards by its own distance (inwards: below 0), its corners where the moved sides meet. Sides that
 * are lost on the way make it cross itself: whoever asks must see to that.
 */
export function offsetOutline(ring: Ring, by: (side: number) => number): Point[] {
  const out = ringArea(ring) > 0 ? 1 : -1,
    n = ring.length;
  const lines = ring.map((p, i) => {
    const q = ring[(i + 1) % n],
      [dx, dy] = [q[0] - p[0], q[1] - p[1]],
      k = (out * by(i)) / Math.hypot(dx, dy);
    return { at: [p[0] + dy * k, p[1] - dx * k] as Point, along: [dx, dy] as Point };
  });
  return lines.map((line, i) => {
    const before = lines[(i + n - 1) % n];
    return meetingOf(before.at, before.along, line.at, line.along) ?? line.at;
  });
}
