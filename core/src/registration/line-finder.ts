import Flatbush from 'flatbush';
import { subtractIntervals, type Interval, type Point } from '../geometry/index.ts';
import type { Lines } from './types.ts';

/** Sine of the angle within which two lines have the same direction. */
const SAME_DIRECTION = 0.02;

/** Finds among many lines those that lie where another does. */
export class LineFinder {
  /** Null for no lines at all. */
  private readonly index: Flatbush | null;

  constructor(private readonly lines: Lines) {
    this.index = lines.length === 0 ? null : new Flatbush(lines.length / 4, 16, Float32Array);
    for (let i = 0; i < lines.length; i += 4)
      this.index!.add(
        Math.min(lines[i], lines[i + 2]),
        Math.min(lines[i + 1], lines[i + 3]),
        Math.max(lines[i], lines[i + 2]),
        Math.max(lines[i + 1], lines[i + 3]),
      );
    this.index?.finish();
  }

  private near(x0: number, y0: number, x1: number, y1: number): number[] {
    return this.index?.search(x0, y0, x1, y1) ?? [];
  }

  /** The line with both ends nearest to the given ones, within `reach`; its ends in the order of the given ones. */
  sameLine(p: Point, q: Point, reach: number): [Point, Point] | null {
    const { lines } = this;
    let best: [Point, Point] | null = null,
      least = 2 * reach * reach;
    // What has an end near p is among what touches the little box round p.
    for (const k of this.near(p[0] - reach, p[1] - reach, p[0] + reach, p[1] + reach)) {
      const i = 4 * k;
      for (const [a, b] of [
        [i, i + 2],
        [i + 2, i],
      ]) {
        const d0 = (lines[a] - p[0]) ** 2 + (lines[a + 1] - p[1]) ** 2;
        if (d0 > reach * reach) continue;
        const d1 = (lines[b] - q[0]) ** 2 + (lines[b + 1] - q[1]) ** 2;
        if (d1 > reach * reach || d0 + d1 >= least) continue;
        least = d0 + d1;
        best = [
          [lines[a], lines[a + 1]],
          [lines[b], lines[b + 1]],
        ];
      }
    }
    return best;
  }

  /** The parts of p to q (as shares of it) that no line lies on within `reach`. */
  uncovered(p: Point, q: Point, reach: number): Interval[] {
    const { lines } = this;
    const dx = q[0] - p[0],
      dy = q[1] - p[1],
      length = Math.sqrt(dx * dx + dy * dy);
    if (length === 0) return [];
    const ux = dx / length,
      uy = dy / length;
    let left: Interval[] = [[0, 1]];
    for (const k of this.near(
      Math.min(p[0], q[0]) - reach,
      Math.min(p[1], q[1]) - reach,
      Math.max(p[0], q[0]) + reach,
      Math.max(p[1], q[1]) + reach,
    )) {
      const i = 4 * k;
      const ex = lines[i + 2] - lines[i],
        ey = lines[i + 3] - lines[i + 1],
        other = Math.sqrt(ex * ex + ey * ey);
      if (
        other === 0 ||
        Math.abs(ux * ey - uy * ex) >
          Math.max(SAME_DIRECTION, Math.min(1, reach / Math.min(length, other))) * other
      )
        continue;
      const off = (x: number, y: number) => Math.abs(-(x - p[0]) * uy + (y - p[1]) * ux);
      const along = (x: number, y: number) => (x - p[0]) * ux + (y - p[1]) * uy;
      let a = along(lines[i], lines[i + 1]),
        b = along(lines[i + 2], lines[i + 3]);
      if (a > b) [a, b] = [b, a];
      const from = Math.max(0, a),
        to = Math.min(length, b);
      if (to < from) continue;
      // Both ends of the common stretch must lie on the other line.
      const at = (t: number) => {
        const share =
          Math.abs(b - a) < 1e-9
            ? 0
            : (t - along(lines[i], lines[i + 1])) /
              (along(lines[i + 2], lines[i + 3]) - along(lines[i], lines[i + 1]));
        return off(lines[i] + share * ex, lines[i + 1] + share * ey);
      };
      if (at(from) > reach || at(to) > reach) continue;
      left = subtractIntervals(left, [[from / length, to / length]]);
      if (left.length === 0) return left;
    }
    return left;
  }
}
