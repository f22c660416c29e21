import type { Point } from './spaces.ts';
import type { Ring } from './polygons.ts';

/** More lines than anybody tells apart: a spacing that would give more is drawn wider, by whole multiples. */
const MOST_LINES = 5000;

/**
 * Parallel lines at an angle (radians) and a spacing that fill rings under the even-odd rule. They lie on one grid through the
 * origin, so that neighbouring areas match.
 */
export function hatchLines(rings: readonly Ring[], angle: number, spacing: number): [Point, Point][] {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  // Turned so that the lines run along u at whole multiples of the spacing in v.
  const turned = rings.map((ring) => ring.map(([x, y]): Point => [c * x + s * y, -s * x + c * y]));
  let low = Infinity,
    high = -Infinity;
  for (const ring of turned) for (const [, v] of ring) [low, high] = [Math.min(low, v), Math.max(high, v)];
  const step = spacing * Math.max(1, Math.ceil((high - low) / spacing / MOST_LINES));
  const out: [Point, Point][] = [];
  for (let n = Math.floor(low / step) + 1; n * step < high; n++) {
    const v = n * step,
      cuts: number[] = [];
    for (const ring of turned) {
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const [u0, v0] = ring[j],
          [u1, v1] = ring[i];
        if (v0 > v !== v1 > v) cuts.push(u0 + ((v - v0) / (v1 - v0)) * (u1 - u0));
      }
    }
    cuts.sort((a, b) => a - b);
    const back = (u: number): Point => [c * u - s * v, s * u + c * v];
    for (let i = 0; i + 1 < cuts.length; i += 2)
      if (cuts[i + 1] > cuts[i]) out.push([back(cuts[i]), back(cuts[i + 1])]);
  }
  return out;
}
