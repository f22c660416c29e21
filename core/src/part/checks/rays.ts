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
/** Places along an axis at which triangles may be parted. */
const BINS = 12;
/** So few triangles are parted without weighing, and so many stand for all when they are weighed. */
const FEW = 24,
  MOST_WEIGHED = 500;
const binOf = (c: number, low: number, wide: number): number =>
  Math.min(BINS - 1, Math.floor((BINS * (c - low)) / wide));

/** A tree of boxes over triangles, asked by rays (Moeller-Trumbore at its leaves). */
export class Rays {
  private readonly order: Uint32Array;
  private readonly sides: Float64Array;
  private readonly centres: Float64Array;
  private readonly boxes: number[] = [];
  private readonly nodes: number[] = [];
  private flatBoxes = new Float64Array();
  private flatNodes = new Int32Array();
  /** Nodes that wait while a ray goes through: one more at most for each step down. */
  private open = new Int32Array();
  private deepest = 0;

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
    if (n > 0) this.build(0, n, 1);
    this.open = new Int32Array(this.deepest + 1);
    this.flatBoxes = Float64Array.from(this.boxes);
    this.flatNodes = Int32Array.from(this.nodes);
  }

  private build(from: number, to: number, depth: number): void {
    this.deepest = Math.max(this.deepest, depth);
    const node = this.nodes.length / STRIDE,
      { sides, order } = this,
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
    const middle = this.parted(from, to);
    this.build(from, middle, depth + 1);
    this.nodes[STRIDE * node] = -(this.nodes.length / STRIDE);
    this.build(middle, to, depth + 1);
  }

  /**
   * Parts triangles where the boxes of both sides are smallest for what they hold (the surface area heuristic over bins, Wald 2007), so that long ones of a
   * flat face are not mixed with the small ones around its holes. Returns where the second side begins.
   */
  private parted(from: number, to: number): number {
    const { centres, order } = this;
    let cost = Infinity,
      axis = 0,
      bin = 0,
      low = 0,
      wide = 0;
    for (let k = 0; k < 3; k++) {
      let least = Infinity,
        most = -Infinity;
      for (let i = from; i < to; i++) {
        const c = centres[3 * order[i] + k];
        if (c < least) least = c;
        if (c > most) most = c;
      }
      if (!(most > least)) continue;
      const take = (c: number, b: number): void => {
        if (c >= cost) return;
        cost = c;
        axis = k;
        bin = b;
        low = least;
        wide = most - least;
      };
      // Few are parted half-way along where they lie widest.
      if (to - from <= FEW) take(least - most, BINS / 2 - 1);
      else this.binned(from, to, k, least, most - least).forEach(take);
    }
    // All in one place: any half is as good.
    if (cost === Infinity) return (from + to) >> 1;
    let middle = from;
    for (let i = from; i < to; i++) {
      if (binOf(centres[3 * order[i] + axis], low, wide) > bin) continue;
      const held = order[middle];
      order[middle++] = order[i];
      order[i] = held;
    }
    return middle > from && middle < to ? middle : (from + to) >> 1;
  }

  /** What parting after each bin but the last costs; infinite where one side holds nothing. */
  private binned(from: number, to: number, axis: number, low: number, wide: number): number[] {
    const counts = new Int32Array(BINS),
      boxes = new Float64Array(6 * BINS).map((_, i) => (i % 6 < 3 ? Infinity : -Infinity));
    const step = Math.ceil((to - from) / MOST_WEIGHED);
    for (let i = from; i < to; i += step) {
      const t = this.order[i],
        b = binOf(this.centres[3 * t + axis], low, wide);
      counts[b]++;
      for (let k = 0; k < 3; k++) {
        const s = SIZE * t + k,
          p = this.sides[s],
          q = p + this.sides[s + 3],
          r = p + this.sides[s + 6];
        boxes[6 * b + k] = Math.min(boxes[6 * b + k], p, q, r);
        boxes[6 * b + 3 + k] = Math.max(boxes[6 * b + 3 + k], p, q, r);
      }
    }
    const sums = (first: number, way: 1 | -1) => {
      const areas = new Float64Array(BINS),
        held = new Int32Array(BINS),
        box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
      let count = 0;
      for (let b = first; b >= 0 && b < BINS; b += way) {
        count += counts[b];
        for (let k = 0; k < 3; k++) {
          box[k] = Math.min(box[k], boxes[6 * b + k]);
          box[3 + k] = Math.max(box[3 + k], boxes[6 * b + 3 + k]);
        }
        const [x, y, z] = [box[3] - box[0], box[4] - box[1], box[5] - box[2]];
        held[b] = count;
        areas[b] = count > 0 ? x * y + y * z + z * x : 0;
      }
      return { held, areas };
    };
    const before = sums(0, 1),
      after = sums(BINS - 1, -1);
    return Array.from({ length: BINS - 1 }, (_, b) =>
      before.held[b] === 0 || after.held[b + 1] === 0
        ? Infinity
        : before.held[b] * before.areas[b] + after.held[b + 1] * after.areas[b + 1],
    );
  }

  /** The first triangle beyond `after` and before `most` along a ray, its direction of length one; null where there is none. */
  first(from: ModelPoint, way: ModelPoint, after = 1e-6, most = Infinity): Hit | null {
    const { flatNodes: nodes, order, open } = this;
    if (nodes.length === 0) return null;
    let best = most,
      found = -1,
      count = 1;
    open[0] = 0;
    while (count > 0) {
      const node = open[--count];
      if (!this.meets(node, from, way, best)) continue;
      const begin = nodes[STRIDE * node];
      if (begin < 0) {
        const later = this.isNearer(-begin, node + 1, way);
        open[count++] = later ? node + 1 : -begin;
        open[count++] = later ? -begin : node + 1;
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

  /** Does the middle of one node's box come before that of another along a way? */
  private isNearer(a: number, b: number, way: ModelPoint): boolean {
    const boxes = this.flatBoxes;
    let ahead = 0;
    for (let k = 0; k < 3; k++)
      ahead += way[k] * (boxes[6 * a + k] + boxes[6 * a + 3 + k] - boxes[6 * b + k] - boxes[6 * b + 3 + k]);
    return ahead < 0;
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
