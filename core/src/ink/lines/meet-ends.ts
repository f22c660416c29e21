import Flatbush from 'flatbush';
import type { InkLine } from './ink-lines.ts';

/** An end is taken to the crossing with another line where that lies within this many stroke widths of it. */
const REACH_WIDTHS = 2.2;
/** Lines that meet at a flatter angle do not say where. */
const LEAST_SINE = 0.2;
/** No end is moved by more than this share of its line. */
const MOST_OF_LINE = 0.25;

/**
 * Ends of lines read from ink stop at the far side of the stroke that they run into, or short of it: each is taken to
 * where the middles of the two strokes meet. Widths and places in one unit; the lines given are not changed.
 */
export function meetEnds(lines: readonly InkLine[]): InkLine[] {
  if (lines.length === 0) return [];
  const widest = Math.max(...lines.map((l) => l.width)) * REACH_WIDTHS;
  const tree = new Flatbush(lines.length);
  for (const { from, to } of lines)
    tree.add(
      Math.min(from[0], to[0]),
      Math.min(from[1], to[1]),
      Math.max(from[0], to[0]),
      Math.max(from[1], to[1]),
    );
  tree.finish();
  const met = (line: InkLine, at: readonly [number, number], i: number): readonly [number, number] => {
    const dx = line.to[0] - line.from[0],
      dy = line.to[1] - line.from[1],
      length = Math.hypot(dx, dy);
    let best: readonly [number, number] = at,
      nearest = MOST_OF_LINE * length;
    for (const k of tree.search(at[0] - widest, at[1] - widest, at[0] + widest, at[1] + widest)) {
      if (k === i) continue;
      const o = lines[k],
        ex = o.to[0] - o.from[0],
        ey = o.to[1] - o.from[1],
        other = Math.hypot(ex, ey);
      const cross = dx * ey - dy * ex;
      if (Math.abs(cross) < LEAST_SINE * length * other) continue;
      const reach = REACH_WIDTHS * Math.max(line.width, o.width);
      const s = ((line.from[0] - o.from[0]) * dy - (line.from[1] - o.from[1]) * dx) / -cross,
        t = ((o.from[0] - line.from[0]) * ey - (o.from[1] - line.from[1]) * ex) / cross;
      if (s * other < -reach || s * other > other + reach) continue;
      const p = [line.from[0] + t * dx, line.from[1] + t * dy] as const;
      const moved = Math.hypot(p[0] - at[0], p[1] - at[1]);
      if (moved > reach || moved >= nearest) continue;
      nearest = moved;
      best = p;
    }
    return best;
  };
  return lines.map((line, i) => ({ ...line, from: met(line, line.from, i), to: met(line, line.to, i) }));
}
