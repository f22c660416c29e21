import type { Box, Point } from './spaces.ts';

/** Affine map [a, b, c, d, e, f]: x' = a x + c y + e, y' = b x + d y + f (the order that PDF and SVG use). */
export type Transform = readonly [number, number, number, number, number, number];

export const IDENTITY: Transform = [1, 0, 0, 1, 0, 0];

export function applyTransform(t: Transform, p: Point): [number, number] {
  return [t[0] * p[0] + t[2] * p[1] + t[4], t[1] * p[0] + t[3] * p[1] + t[5]];
}

/** The map that does `first`, then `then`. */
export function compose(then: Transform, first: Transform): Transform {
  return [
    then[0] * first[0] + then[2] * first[1],
    then[1] * first[0] + then[3] * first[1],
    then[0] * first[2] + then[2] * first[3],
    then[1] * first[2] + then[3] * first[3],
    then[0] * first[4] + then[2] * first[5] + then[4],
    then[1] * first[4] + then[3] * first[5] + then[5],
  ];
}

export function determinant(t: Transform): number {
  return t[0] * t[3] - t[1] * t[2];
}

/** The inverse map; throws on a singular one, which no placement may be. */
export function invertTransform(t: Transform): Transform {
  const det = determinant(t);
  if (!(Math.abs(det) > 1e-300)) throw new Error(`Transform cannot be inverted: determinant ${det}.`);
  const a = t[3] / det,
    b = -t[1] / det,
    c = -t[2] / det,
    d = t[0] / det;
  return [a, b, c, d, -(a * t[4] + c * t[5]), -(b * t[4] + d * t[5])];
}

export const translation = (x: number, y: number): Transform => [1, 0, 0, 1, x, y];

/** Scale by `factor` about a point that stays where it is. */
export function scalingAbout(factor: number, about: Point): Transform {
  return [factor, 0, 0, factor, about[0] * (1 - factor), about[1] * (1 - factor)];
}

/** Turn by `radians`, counter-clockwise with y up, about a point. Quarter turns are exact. */
export function rotationAbout(radians: number, about: Point): Transform {
  const quarters = radians / (Math.PI / 2);
  const whole = Math.round(quarters);
  const exact = Math.abs(quarters - whole) < 1e-12;
  const cos = exact ? [1, 0, -1, 0][((whole % 4) + 4) % 4] : Math.cos(radians);
  const sin = exact ? [0, 1, 0, -1][((whole % 4) + 4) % 4] : Math.sin(radians);
  const [x, y] = about;
  return [cos, sin, -sin, cos, x - cos * x + sin * y, y - sin * x - cos * y];
}

/** Length scale of a map: the square root of its area scale. */
export function meanScale(t: Transform): number {
  return Math.sqrt(Math.abs(determinant(t)));
}

/** Angle in radians of the image of the x axis. */
export const turnOf = (t: Transform): number => Math.atan2(t[1], t[0]);

export function transformBox(t: Transform, box: Box): Box {
  const xs: number[] = [],
    ys: number[] = [];
  for (const [x, y] of [
    [box[0], box[1]],
    [box[2], box[1]],
    [box[2], box[3]],
    [box[0], box[3]],
  ] as Point[]) {
    const [px, py] = applyTransform(t, [x, y]);
    xs.push(px);
    ys.push(py);
  }
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}
