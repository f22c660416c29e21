/** Ends nearer than this (sheet points) are the same end. */
const SAME_END = 0.01;

/**
 * Marks the edges of fills that are also drawn by a stroke: some producers write a filled and stroked
 * shape as two objects, and one line is enough.
 */
export function strokedTwins(edges: Float64Array, segments: Float64Array): Uint8Array {
  const marks = new Uint8Array(edges.length / 4);
  if (marks.length === 0) return marks;
  const cell = (v: number) => Math.round(v / (4 * SAME_END));
  const key = (x: number, y: number) => cell(x) * 16777259 + cell(y);
  const byMiddle = new Map<number, number[]>();
  for (let i = 0; i < marks.length; i++) {
    const k = key((edges[4 * i] + edges[4 * i + 2]) / 2, (edges[4 * i + 1] + edges[4 * i + 3]) / 2);
    const list = byMiddle.get(k);
    if (list) list.push(i);
    else byMiddle.set(k, [i]);
  }
  const near = (a: number, b: number) => Math.abs(a - b) <= SAME_END;
  const same = (e: number, s: number) =>
    (near(edges[e], segments[s]) &&
      near(edges[e + 1], segments[s + 1]) &&
      near(edges[e + 2], segments[s + 2]) &&
      near(edges[e + 3], segments[s + 3])) ||
    (near(edges[e], segments[s + 2]) &&
      near(edges[e + 1], segments[s + 3]) &&
      near(edges[e + 2], segments[s]) &&
      near(edges[e + 3], segments[s + 1]));
  for (let s = 0; s < segments.length; s += 4) {
    const mx = (segments[s] + segments[s + 2]) / 2,
      my = (segments[s + 1] + segments[s + 3]) / 2;
    for (const [dx, dy] of NEIGHBOURS) {
      const list = byMiddle.get(key(mx + dx * 2 * SAME_END, my + dy * 2 * SAME_END));
      if (list) for (const i of list) if (same(4 * i, s)) marks[i] = 1;
    }
  }
  return marks;
}

const NEIGHBOURS = [
  [0, 0],
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
  [1, 1],
  [1, -1],
  [-1, 1],
  [-1, -1],
] as const;
