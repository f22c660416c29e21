import type { ModelPoint } from '../../geometry/index.ts';

/** Where a ray meets a skin first. */
export interface Hit {
  distance: number;
  triangle: number;
}

const LEAF = 4;
/** A node's figures: where its triangles begin and end, or below 0 its second child (the first follows it). */
const STRIDE = 2;
/** A triangle's figures: a corner and both sides from it. */
const SIZE = 9;
/** Deeper than any tree of so many triangles. */
const DEEPEST = 64;

/** A tree of boxes over triangles, asked by rays (Moeller-Trumbore at its leaves). */
export class Rays {
  private readonly order: Uint32Array;
  private readonly sides: Float64Array;
  private readonly centres: Float64Array;
  private readonly boxes: number[] = [];
  private readonly nodes: number[] = [];
  private flatBoxes = new Float64Array();
  private flatNodes = new Int32Array();
  private readonly open = new Int32Array(DEEPEST * 2);

  constructor(corners: ArrayLike<number>, triangles: ArrayLike<number>) {
    const n = Math.floor(triangles.length / 3);
    this.order = Uint32Array.from({ length: n }, (_, i) => i);
    this.sides = new Float64Array(SIZE * n);
    this.centres = new Float64Array(3 * n);
    for (let t = 0; t < n; t++)
      for (let k = 0; k < 3; k++) {
        const a = corners[3 * triangles[3 * t] + k],
          b = corners[3 * triangles[3 * t + 1] + k],
          c = corners[3 * triangles[3 * t + 2] + k];
        this.sides[SIZE * t + k] = a;
        this.sides[SIZE * t + 3 + k] = b - a;
        this.sides[SIZE * t + 6 + k] = c - a;
        this.centres[3 * t + k] = (a + b + c) / 3;
      }
    if (n > 0) this.build(0, n);
    this.flatBoxes = Float64Array.from(this.boxes);
    this.flatNodes = Int32Array.from(this.nodes);
  }

  private build(from: number, to: number): void {
    const node = this.nodes.length / STRIDE,
      { sides, centres, order } = this,
      low = [Infinity, Infinity, Infinity],
      high = [-Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++)
      for (let k = 0; k < 3; k++) {
        const s = SIZE * order[i] + k,
          a = sides[s],
          b = a + sides[s + 3],
          c = a + sides[s + 6];
        low[k] = Math.min(low[k], a, b, c);
        high[k] = Math.max(high[k], a, b, c);
      }
    this.boxes.push(...low, ...high);
    this.nodes.push(from, to);
    if (to - from <= LEAF) return;
    const axis = [0, 1, 2].reduce((a, b) => (high[b] - low[b] > high[a] - low[a] ? b : a));
    order.subarray(from, to).sort((a, b) => centres[3 * a + axis] - centres[3 * b + axis]);
    const middle = (from + to) >> 1;
    this.build(from, middle);
    this.nodes[STRIDE * node] = -(this.nodes.length / STRIDE);
    this.build(middle, to);
  }

  /** The first triangle beyond `after` along a ray, its direction of length one; null where there is none. */
  first(from: ModelPoint, way: ModelPoint, after = 1e-6): Hit | null {
    const { flatNodes: nodes, order, open } = this;
    if (nodes.length === 0) return null;
    let best = Infinity,
      found = -1,
      count = 1;
    open[0] = 0;
    while (count > 0) {
      const node = open[--count];
      if (!this.meets(node, from, way, best)) continue;
      const begin = nodes[STRIDE * node];
      if (begin < 0) {
        open[count++] = -begin;
        open[count++] = node + 1;
        continue;
      }
      const end = nodes[STRIDE * node + 1];
      for (let i = begin; i < end; i++) {
        const distance = this.distanceTo(order[i], from, way);
        if (distance > after && distance < best) {
          best = distance;
          found = order[i];
        }
      }
    }
    return found < 0 ? null : { distance: best, triangle: found };
  }

  private meets(node: number, from: ModelPoint, way: ModelPoint, most: number): boolean {
    const boxes = this.flatBoxes;
    let enter = 0,
      leave = most;
    for (let k = 0; k < 3; k++) {
      const low = boxes[6 * node + k] - from[k] - 1e-9,
        high = boxes[6 * node + 3 + k] - from[k] + 1e-9,
        w = way[k];
      if (w < 1e-15 && w > -1e-15) {
        if (low > 0 || high < 0) return false;
        continue;
      }
      const a = (w > 0 ? low : high) / w,
        b = (w > 0 ? high : low) / w;
      if (a > enter) enter = a;
      if (b < leave) leave = b;
      if (enter > leave) return false;
    }
    return true;
  }

  /** How far along a ray a triangle lies; NaN where it is missed. */
  private distanceTo(t: number, from: ModelPoint, way: ModelPoint): number {
    const s = this.sides,
      i = SIZE * t,
      ux = s[i + 3],
      uy = s[i + 4],
      uz = s[i + 5],
      vx = s[i + 6],
      vy = s[i + 7],
      vz = s[i + 8],
      px = way[1] * vz - way[2] * vy,
      py = way[2] * vx - way[0] * vz,
      pz = way[0] * vy - way[1] * vx,
      det = ux * px + uy * py + uz * pz;
    if (det < 1e-14 && det > -1e-14) return NaN;
    const sx = from[0] - s[i],
      sy = from[1] - s[i + 1],
      sz = from[2] - s[i + 2],
      a = (sx * px + sy * py + sz * pz) / det;
    if (a < -1e-9 || a > 1 + 1e-9) return NaN;
    const qx = sy * uz - sz * uy,
      qy = sz * ux - sx * uz,
      qz = sx * uy - sy * ux,
      b = (way[0] * qx + way[1] * qy + way[2] * qz) / det;
    return b < -1e-9 || a + b > 1 + 1e-9 ? NaN : (vx * qx + vy * qy + vz * qz) / det;
  }
}
