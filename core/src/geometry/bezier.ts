import type { Point } from './spaces.ts';

/** A cubic Bézier as its four points [x0, y0, x1, y1, x2, y2, x3, y3]. */
export type Cubic = readonly [number, number, number, number, number, number, number, number];

export function cubicAt(c: Cubic, t: number): [number, number] {
  const u = 1 - t;
  const a = u * u * u,
    b = 3 * u * u * t,
    d = 3 * u * t * t,
    e = t * t * t;
  return [a * c[0] + b * c[2] + d * c[4] + e * c[6], a * c[1] + b * c[3] + d * c[5] + e * c[7]];
}

/** The part of a cubic between two parameters (de Casteljau, twice). */
export function cubicPart(c: Cubic, from: number, to: number): Cubic {
  const right = from === 0 ? c : splitCubic(c, from)[1];
  return to === 1 ? right : splitCubic(right, (to - from) / (1 - from))[0];
}

function splitCubic(c: Cubic, t: number): [Cubic, Cubic] {
  const mix = (p: Point, q: Point): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
  const p0: Point = [c[0], c[1]],
    p1: Point = [c[2], c[3]],
    p2: Point = [c[4], c[5]],
    p3: Point = [c[6], c[7]];
  const a = mix(p0, p1),
    b = mix(p1, p2),
    d = mix(p2, p3);
  const ab = mix(a, b),
    bd = mix(b, d);
  const m = mix(ab, bd);
  return [[...p0, ...a, ...ab, ...m] as unknown as Cubic, [...m, ...bd, ...d, ...p3] as unknown as Cubic];
}

/** Points along the cubic, both ends included. */
export function flattenCubic(c: Cubic, pieces: number): Point[] {
  return Array.from({ length: pieces + 1 }, (_, i) => cubicAt(c, i / pieces));
}

/** Box of the control points: contains the curve. */
export function cubicBox(c: Cubic): [number, number, number, number] {
  return [
    Math.min(c[0], c[2], c[4], c[6]),
    Math.min(c[1], c[3], c[5], c[7]),
    Math.max(c[0], c[2], c[4], c[6]),
    Math.max(c[1], c[3], c[5], c[7]),
  ];
}

/** Length of a Bézier, by 16 chords: within a thousandth for what people draw. */
export function cubicLength(c: Cubic): number {
  let length = 0,
    last: Point = [c[0], c[1]];
  for (let i = 1; i <= 16; i++) {
    const p = cubicAt(c, i / 16);
    length += Math.sqrt((p[0] - last[0]) ** 2 + (p[1] - last[1]) ** 2);
    last = p;
  }
  return length;
}
