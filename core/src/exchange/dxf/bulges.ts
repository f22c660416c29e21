import { normalAngle, TAU, type Point } from '../../geometry/index.ts';
import type { DxfRecord } from './records.ts';

export const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** From one angle counter-clockwise to another, radians: more than nothing, a full turn at most. */
export function sweepOf(start: number, end: number): number {
  const sweep = end - start > 0 && end - start <= TAU ? end - start : normalAngle(end - start);
  return sweep <= 1e-12 ? TAU : sweep;
}

/** A corner of a polyline, and how its next piece bulges: the tangent of a quarter of the arc's angle. */
export interface Vertex {
  p: Point;
  bulge: number;
}

export function polylineVertices(r: DxfRecord): Vertex[] {
  const out: Vertex[] = [];
  for (const [code, value] of r.pairs) {
    if (code === 10) out.push({ p: [Number(value), 0], bulge: 0 });
    else if (code === 20 && out.length > 0) out[out.length - 1].p = [out[out.length - 1].p[0], Number(value)];
    else if (code === 42 && out.length > 0) out[out.length - 1].bulge = Number(value);
  }
  return out.filter((v) => v.p.every(Number.isFinite) && Number.isFinite(v.bulge));
}

/** The arc of a bulge, counter-clockwise from start to end; null where its ends are one. */
export function bulgeArc(
  a: Point,
  b: Point,
  bulge: number,
): { centre: Point; r: number; start: number; end: number } | null {
  const dx = b[0] - a[0],
    dy = b[1] - a[1],
    chord = Math.hypot(dx, dy);
  if (chord === 0) return null;
  const angle = 4 * Math.atan(bulge);
  const r = chord / (2 * Math.sin(Math.abs(angle) / 2));
  // From the chord's middle to the centre, to the left of the way for a positive bulge.
  const h = (chord * (1 - bulge * bulge)) / (4 * bulge);
  const centre: Point = [(a[0] + b[0]) / 2 - (dy / chord) * h, (a[1] + b[1]) / 2 + (dx / chord) * h];
  const [first, last] = bulge > 0 ? [a, b] : [b, a];
  const start = Math.atan2(first[1] - centre[1], first[0] - centre[0]);
  let end = Math.atan2(last[1] - centre[1], last[0] - centre[0]);
  if (end <= start) end += TAU;
  return { centre, r, start, end };
}

/** Points along an arc, near enough to one another for the eye. */
export function chords(centre: Point, r: number, start: number, end: number, backwards: boolean): Point[] {
  const sweep = sweepOf(start, end);
  const n = Math.max(2, Math.ceil(sweep / (Math.PI / 16)));
  const points = Array.from({ length: n + 1 }, (_, i): Point => [
    centre[0] + r * Math.cos(start + (sweep * i) / n),
    centre[1] + r * Math.sin(start + (sweep * i) / n),
  ]);
  return backwards ? points.reverse() : points;
}
