/**
 * Lines too faint to be ink: on a photo or a worn scan the thin ones are hardly darker than the grain of the paper. But they run
 * straight, in the directions in which most of the sheet's lines run: the mean along such a direction takes the grain away and
 * leaves the line. Where that mean is darker than on both its sides, there is a line.
 */

/** The mean is taken over so many pixels to either side, and over so few where a line's end is looked for. */
const REACH = 8,
  SHORT = 2;
/** A line is darker than what lies beside it by so much of the paper's brightness, and by so many standard deviations of the mean; near its end by half of that. */
const LEAST_DEPTH = 0.05,
  SURE = 5;
/** Where the mean is paler than this share of the paper there is nothing. */
const PALEST = 0.97;
/** Gaps so long are closed, pixels. */
const GAP = 9;
/** Ink of more than this share of what lies a little beside, on both sides: letters. */
const CROWDED = 0.12;
/** While a direction is followed, what it added. */
const FAINT = 2;
const SAMPLES = 20000;

/** Adds to the ink what runs along one of the `directions` (radians, counter-clockwise with y up; any, and square to each). Changes `mask`. */
export function addFaintLines(
  mask: Uint8Array,
  relative: Uint8Array,
  { width, height }: { width: number; height: number },
  directions: readonly number[],
): void {
  const noise = grainOf(relative, width),
    depth = Math.max(255 * LEAST_DEPTH, (SURE * noise) / Math.sqrt(2 * REACH + 1)),
    short = Math.max(depth / 2, (2 * noise) / Math.sqrt(2 * SHORT + 1));
  const before = Uint8Array.from(mask);
  for (const direction of directions)
    for (const turn of [direction, direction + Math.PI / 2]) {
      const c = Math.cos(turn),
        s = -Math.sin(turn);
      // Along the axis that it is nearer to: places go by one pixel there, and by less across.
      if (Math.abs(c) >= Math.abs(s))
        addAlong(
          mask,
          before,
          relative,
          { across: height, along: width, stepAcross: width, stepAlong: 1, slope: s / c },
          depth,
          short,
        );
      else
        addAlong(
          mask,
          before,
          relative,
          { across: width, along: height, stepAcross: 1, stepAlong: width, slope: c / s },
          depth,
          short,
        );
    }
}

interface Way {
  across: number;
  along: number;
  stepAcross: number;
  stepAlong: number;
  slope: number;
}

function addAlong(
  mask: Uint8Array,
  before: Uint8Array,
  relative: Uint8Array,
  { across, along, stepAcross, stepAlong, slope }: Way,
  depth: number,
  short: number,
): void {
  const mean = new Uint8Array(relative.length).fill(255),
    dark = new Uint8Array(relative.length),
    shift = Int32Array.from({ length: along }, (_, t) => Math.round(slope * t));
  const least = Math.min(0, shift[along - 1]),
    most = Math.max(0, shift[along - 1]),
    window = 2 * REACH + 1;
  for (let row = -most; row < across - least; row++) {
    let sum = 0,
      count = 0,
      ink = 0;
    const add = (t: number, sign: 1 | -1) => {
      const v = row + shift[t];
      if (v < 0 || v >= across) return;
      const i = v * stepAcross + t * stepAlong;
      sum += sign * relative[i];
      count += sign;
      ink += sign * before[i];
    };
    for (let t = 0; t < along + REACH; t++) {
      if (t < along) add(t, 1);
      const gone = t - window;
      if (gone >= 0) add(gone, -1);
      const at = t - REACH;
      if (at < 0) continue;
      const v = row + shift[at];
      if (v < 0 || v >= across || count <= REACH) continue;
      mean[v * stepAcross + at * stepAlong] = Math.round(sum / count);
      dark[v * stepAcross + at * stepAlong] = ink;
    }
  }
  const palest = 255 * PALEST,
    faint: number[] = [];
  for (let t = SHORT; t < along - SHORT; t++) {
    for (let v = 3; v < across - 3; v++) {
      const i = v * stepAcross + t * stepAlong,
        m = mean[i];
      if (mask[i] || m > palest || m > mean[i - stepAcross] || m > mean[i + stepAcross]) continue;
      const beside = (far: number) => Math.min(mean[i - far * stepAcross], mean[i + far * stepAcross]);
      if (Math.max(beside(2), beside(3)) - m < depth) continue;
      // Between rows of ink on both sides it is a stroke of letters or a hatch, no line.
      const crowd = (side: number) => {
        let all = 0;
        for (let far = 3; far <= 6; far++) {
          const at = v + side * far;
          if (at >= 0 && at < across) all += dark[i + side * far * stepAcross];
        }
        return all;
      };
      if (Math.min(crowd(1), crowd(-1)) > CROWDED * 4 * window) continue;
      let here = 0,
        near = 0;
      for (let k = -SHORT; k <= SHORT; k++) {
        const at = v + Math.round(slope * k);
        here += relative[at * stepAcross + (t + k) * stepAlong];
        near += Math.max(
          Math.min(
            at > 1 ? relative[(at - 2) * stepAcross + (t + k) * stepAlong] : 255,
            at < across - 2 ? relative[(at + 2) * stepAcross + (t + k) * stepAlong] : 255,
          ),
          at > 2 && at < across - 3
            ? Math.min(
                relative[(at - 3) * stepAcross + (t + k) * stepAlong],
                relative[(at + 3) * stepAcross + (t + k) * stepAlong],
              )
            : 0,
        );
      }
      if ((near - here) / (2 * SHORT + 1) >= short) {
        mask[i] = FAINT;
        faint.push(t, v);
      }
    }
  }
  // Beside ticks and crossings the paper is dark as well: there a line goes on if it goes on beyond, and all between is as dark.
  for (let k = 0; k < faint.length; k += 2)
    for (const side of [1, -1]) {
      const t = faint[k],
        v = faint[k + 1];
      const place = (steps: number) => {
        const at = t + side * steps,
          w = v - shift[t] + (at >= 0 && at < along ? shift[at] : 0);
        return at >= 0 && at < along && w >= 0 && w < across ? w * stepAcross + at * stepAlong : -1;
      };
      let steps = 1,
        sum = 0;
      for (; steps <= GAP; steps++) {
        const i = place(steps);
        if (i < 0 || mask[i]) break;
        sum += relative[i];
      }
      // How dark the line is, away from what darkens it here.
      const back = place(-REACH),
        level = Math.max(mean[v * stepAcross + t * stepAlong], back < 0 ? 0 : mean[back]);
      if (steps === 1 || steps > GAP || place(steps) < 0 || sum / (steps - 1) > level + depth / 2) continue;
      for (let s = 1; s < steps; s++) mask[place(s)] = 1;
    }
  for (let k = 0; k < faint.length; k += 2) mask[faint[k + 1] * stepAcross + faint[k] * stepAlong] = 1;
}

/** The standard deviation of the paper's grain, by the median difference of pixels near one another. */
function grainOf(relative: Uint8Array, width: number): number {
  const step = Math.max(1, Math.floor(relative.length / SAMPLES)),
    differences: number[] = [];
  for (let i = 0; i + 3 < relative.length; i += step)
    if (i % width < width - 3 && relative[i] > 200 && relative[i + 3] > 200)
      differences.push(Math.abs(relative[i] - relative[i + 3]));
  return (1.4826 * (differences.sort((a, b) => a - b)[Math.floor(differences.length / 2)] ?? 0)) / Math.SQRT2;
}
