import type { Point } from '../../geometry/index.ts';

/** A straight line by its two ends, pixels (y down). */
export interface Stroke {
  a: Point;
  b: Point;
}

/** Directions that hold at least this share of all line length, long lines counting more. */
const LEAST_SHARE = 0.05;
const TURN_STEP = Math.PI / 720;

/** The directions that most of the sheet's lines run in, radians counter-clockwise with y up, each and what is square to it once. */
export function directionsOf(lines: readonly Stroke[]): number[] {
  const bins = new Float64Array(Math.round(Math.PI / 2 / TURN_STEP));
  let total = 0;
  for (const l of lines) {
    const turn = Math.atan2(l.a[1] - l.b[1], l.b[0] - l.a[0]),
      length = (l.b[0] - l.a[0]) ** 2 + (l.b[1] - l.a[1]) ** 2;
    const k = Math.round(turn / TURN_STEP);
    bins[((k % bins.length) + bins.length) % bins.length] += length;
    total += length;
  }
  const at = (k: number) => bins[(k + bins.length) % bins.length];
  const out: number[] = [];
  bins.forEach((_, k) => {
    const sum = at(k - 1) + at(k) + at(k + 1);
    if (sum < LEAST_SHARE * total || at(k) < at(k - 1) || at(k) <= at(k + 1)) return;
    out.push(((at(k + 1) - at(k - 1)) / sum + k) * TURN_STEP);
  });
  return out;
}
