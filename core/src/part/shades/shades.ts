import { cross3, dot3, type ModelPoint } from '../../geometry/index.ts';
import { minus, turnedRound, unit } from '../checks/looked.ts';
import { Rays } from '../checks/rays.ts';

/** A skin in triangles of its own, each with what it measures. */
export interface Shades {
  /** Three corners of three figures to a triangle. */
  corners: Float32Array;
  /** To a triangle its measure: millimetres, or radians; NaN where there is none. */
  values: Float32Array;
  least: number;
  most: number;
}

interface SkinTriangles {
  corners: ArrayLike<number>;
  triangles: ArrayLike<number>;
}

/** Triangles are broken up until none is wider than this share of the part; more than so many are not made. */
const FINE = 1 / 40,
  MOST_TRIANGLES = 60000;

/** How thick a part is behind each place of its skin: straight in, to where a ray comes out. */
export function thicknessOf(skin: SkinTriangles): Shades {
  const rays = new Rays(skin.corners, skin.triangles);
  return shaded(skin, (at, normal) => rays.first(at, turnedRound(normal), LEAST_THICK)?.distance ?? NaN);
}
/** Nearer than this a ray meets the skin that it began on. */
const LEAST_THICK = 1e-4;

/**
 * How far each place of a skin leans from the way in which a part is drawn from its mould, radians: 0 is upright, above it opens towards that way, below it
 * holds the part back. Faces that look the other way count by the other half of the mould.
 */
export function draftOf(skin: SkinTriangles, pull: ModelPoint): Shades {
  const way = unit(pull);
  return shaded(skin, (_, normal) => Math.asin(Math.max(-1, Math.min(1, dot3(normal, way)))));
}

function shaded(
  { corners, triangles }: SkinTriangles,
  measure: (at: ModelPoint, normal: ModelPoint) => number,
): Shades {
  const place = (i: number): ModelPoint => [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]],
    wide = widest(corners) * FINE,
    out: number[] = [],
    values: number[] = [];
  let [least, most] = [Infinity, -Infinity];
  const put = (a: ModelPoint, b: ModelPoint, c: ModelPoint): void => {
    const sides = [minus(b, a), minus(c, b), minus(a, c)].map((v) => Math.hypot(...v)),
      longest = Math.max(...sides);
    if (longest > wide && out.length / 9 + triangles.length / 3 < MOST_TRIANGLES) {
      // The longest side is halved, so that slivers grow no thinner.
      const [p, q, r] = longest === sides[0] ? [a, b, c] : longest === sides[1] ? [b, c, a] : [c, a, b],
        m: ModelPoint = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2];
      put(p, m, r);
      put(m, q, r);
      return;
    }
    const n = cross3(minus(b, a), minus(c, a)),
      twice = Math.hypot(...n);
    if (!(twice > 1e-12)) return;
    const middle: ModelPoint = [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3],
      value = measure(middle, [n[0] / twice, n[1] / twice, n[2] / twice]);
    out.push(...a, ...b, ...c);
    values.push(value);
    if (value < least) least = value;
    if (value > most) most = value;
  };
  for (let t = 0; t + 2 < triangles.length; t += 3)
    put(place(triangles[t]), place(triangles[t + 1]), place(triangles[t + 2]));
  return { corners: Float32Array.from(out), values: Float32Array.from(values), least, most };
}

function widest(corners: ArrayLike<number>): number {
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < corners.length; i++) {
    low[i % 3] = Math.min(low[i % 3], corners[i]);
    high[i % 3] = Math.max(high[i % 3], corners[i]);
  }
  return Math.max(...high.map((h, k) => h - low[k]));
}
