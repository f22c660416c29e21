import Flatbush from 'flatbush';

/** Joined lines lie within this of the longest of them, sheet points: twice that is what any may move, under a hundredth. */
const STRAY = 0.004;
/** Ends that miss by no more than this touch, sheet points. */
export const TOUCH = 0.01;
/** Lines that turn by more than this (sine) are a corner, however short they are. */
const SAME_WAY = 0.01;

/**
 * Joins segments (x0, y0, x1, y1 each) that lie in one line and touch or overlap; doubles fall together. Each joined line grows
 * from its longest member, so that nothing creeps round a finely broken curve.
 */
export function joinInLine(lines: Float64Array): Float64Array {
  const n = lines.length / 4;
  if (n < 2) return lines;
  const index = new Flatbush(n);
  const lengths = new Float64Array(n);
  for (let i = 0, k = 0; i < n; i++, k += 4) {
    lengths[i] = Math.hypot(lines[k + 2] - lines[k], lines[k + 3] - lines[k + 1]);
    index.add(
      Math.min(lines[k], lines[k + 2]) - TOUCH,
      Math.min(lines[k + 1], lines[k + 3]) - TOUCH,
      Math.max(lines[k], lines[k + 2]) + TOUCH,
      Math.max(lines[k + 1], lines[k + 3]) + TOUCH,
    );
  }
  index.finish();
  const used = new Uint8Array(n),
    out: number[] = [];
  const longestFirst = Uint32Array.from({ length: n }, (_, i) => i).sort(
    (a, b) => lengths[b] - lengths[a] || a - b,
  );
  for (const axis of longestFirst) {
    if (used[axis]) continue;
    used[axis] = 1;
    const a = 4 * axis,
      length = lengths[axis];
    if (length === 0) continue;
    const x = lines[a],
      y = lines[a + 1],
      ux = (lines[a + 2] - x) / length,
      uy = (lines[a + 3] - y) / length;
    // The corners that lie farthest back and farthest on, with their places along the axis.
    let first = a,
      low = 0,
      last = a + 2,
      high = length;
    const open = [axis];
    for (let k = open.pop(); k !== undefined; k = open.pop()) {
      const m = 4 * k,
        sm = (lines[m] - x) * ux + (lines[m + 1] - y) * uy,
        tm = (lines[m + 2] - x) * ux + (lines[m + 3] - y) * uy;
      const from = Math.min(sm, tm) - TOUCH,
        to = Math.max(sm, tm) + TOUCH;
      index.search(
        Math.min(lines[m], lines[m + 2]),
        Math.min(lines[m + 1], lines[m + 3]),
        Math.max(lines[m], lines[m + 2]),
        Math.max(lines[m + 1], lines[m + 3]),
        (j) => {
          if (used[j]) return false;
          const b = 4 * j,
            px = lines[b] - x,
            py = lines[b + 1] - y,
            qx = lines[b + 2] - x,
            qy = lines[b + 3] - y;
          if (
            Math.abs(px * uy - py * ux) > STRAY ||
            Math.abs(qx * uy - qy * ux) > STRAY ||
            Math.abs((qx - px) * uy - (qy - py) * ux) > SAME_WAY * lengths[j]
          )
            return false;
          const s = px * ux + py * uy,
            t = qx * ux + qy * uy;
          if (Math.max(s, t) < from || Math.min(s, t) > to) return false;
          used[j] = 1;
          open.push(j);
          if (s < low) [first, low] = [b, s];
          if (t < low) [first, low] = [b + 2, t];
          if (s > high) [last, high] = [b, s];
          if (t > high) [last, high] = [b + 2, t];
          return false;
        },
      );
    }
    out.push(lines[first], lines[first + 1], lines[last], lines[last + 1]);
  }
  return Float64Array.from(out);
}
