import { greyAt, type Raster } from '../raster.ts';
import type { Stroke } from './directions.ts';
import type { Grown, InkGrid } from './grow.ts';
import { addPoint, axisOf, noSums } from './straight.ts';

/** Samples are taken this far apart at least, and at most so many along a line. */
const STEP = 1,
  MOST_SAMPLES = 400;
/** How far to both sides the ink of a stroke is looked for, beyond its half width, pixels. */
const MARGIN = 2.5;
const ROUNDS = 3;
/** Samples farther off than this many median deviations are somebody else's ink. */
const OUTLYING = 3;
const LEAST_SAMPLES = 6;

export interface Refined extends Grown {
  /** Width of the stroke, pixels. */ width: number;
}

/**
 * Moves a line to the middle of its ink, finer than a pixel: across it, at each of many places, the darkness has a
 * middle; a line is fitted to these, leaving out where other ink crosses (in turns, by the median deviation).
 */
export function refine(line: Grown, raster: Raster, ink: InkGrid): Refined {
  const width = strokeWidth(line, ink);
  const half = width / 2 + MARGIN;
  const count = Math.min(MOST_SAMPLES, Math.max(1, Math.floor((line.to - line.from) / STEP)));
  const middles: [number, number][] = [];
  for (let k = 0; k < count; k++) {
    const t = line.from + ((k + 0.5) * (line.to - line.from)) / count;
    const v = middleAcross(line, t, half, raster);
    if (v !== null) middles.push([line.x + t * line.ux - v * line.uy, line.y + t * line.uy + v * line.ux]);
  }
  if (middles.length < LEAST_SAMPLES) return { ...line, width };
  let kept = middles,
    axis = line as Pick<Grown, 'x' | 'y' | 'ux' | 'uy' | 'rms'>;
  for (let round = 0; round < ROUNDS; round++) {
    const sums = noSums();
    for (const [x, y] of kept) addPoint(sums, x, y);
    axis = axisOf(sums);
    const off = middles.map(([x, y]) => Math.abs(-(x - axis.x) * axis.uy + (y - axis.y) * axis.ux));
    const limit = Math.max(
      0.15,
      OUTLYING * 1.4826 * [...off].sort((a, b) => a - b)[Math.floor(off.length / 2)],
    );
    kept = middles.filter((_, i) => off[i] <= limit);
    if (kept.length < LEAST_SAMPLES) return { ...line, width };
  }
  // The direction goes on pointing the same way, and the ends stay where they were along it.
  const sign = Math.sign(axis.ux * line.ux + axis.uy * line.uy) || 1,
    ux = sign * axis.ux,
    uy = sign * axis.uy;
  const along = (t: number) => (line.x + t * line.ux - axis.x) * ux + (line.y + t * line.uy - axis.y) * uy;
  return { x: axis.x, y: axis.y, ux, uy, rms: axis.rms, from: along(line.from), to: along(line.to), width };
}

/** Median width of the ink across the line. */
function strokeWidth(line: Grown, { mask, width, height }: InkGrid): number {
  const set = (x: number, y: number) =>
    x >= 0 && y >= 0 && x < width && y < height && mask[Math.floor(y) * width + Math.floor(x)] === 1;
  const widths: number[] = [];
  const count = Math.min(40, Math.max(3, Math.floor((line.to - line.from) / 2)));
  for (let k = 0; k < count; k++) {
    const t = line.from + ((k + 0.5) * (line.to - line.from)) / count,
      x = line.x + t * line.ux,
      y = line.y + t * line.uy;
    let sum = 0;
    for (const side of [1, -1]) {
      let v = 0;
      while (v < 20 && set(x - side * v * line.uy, y + side * v * line.ux)) v += 0.25;
      sum += v;
    }
    widths.push(sum);
  }
  return widths.sort((a, b) => a - b)[Math.floor(widths.length / 2)] ?? 1;
}

/** Where the middle of the darkness lies across the line at `t`, or null where other ink reaches the margin. */
function middleAcross(line: Grown, t: number, half: number, raster: Raster): number | null {
  const profile: number[] = [];
  const steps = Math.ceil(half / 0.5);
  for (let k = -steps; k <= steps; k++) {
    const v = k * 0.5;
    profile.push(greyAt(raster, line.x + t * line.ux - v * line.uy, line.y + t * line.uy + v * line.ux));
  }
  const paper = Math.max(...profile),
    ink = Math.min(...profile);
  if (paper - ink < 30) return null;
  // Dark at the edge of what is looked at: that belongs to something else.
  const limit = paper - 0.35 * (paper - ink);
  if (profile[0] < limit || profile[profile.length - 1] < limit) return null;
  let sum = 0,
    weighted = 0;
  profile.forEach((grey, i) => {
    const dark = Math.max(0, paper - 0.12 * (paper - ink) - grey);
    sum += dark;
    weighted += dark * (i - steps) * 0.5;
  });
  return sum > 0 ? weighted / sum : null;
}

/** A line by its two ends, pixels. */
export const strokeOf = ({ x, y, ux, uy, from, to }: Grown): Stroke => ({
  a: [x + from * ux, y + from * uy],
  b: [x + to * ux, y + to * uy],
});
