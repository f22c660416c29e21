import type { ModelPoint } from '../../geometry/index.ts';

/** Where a ray meets a skin first. */
export interface Hit {
  distance: number;
  triangle: number;
}

const LEAF = 6;

/** A tree of boxes over triangles, asked by rays (Moeller-Trumbore at its leaves). */
export class Rays {
  private readonly order: Uint32Array;
  private readonly centres: Float64Array;
  /** To a node: its box, six figures; where its triangles begin and end, or its two children. */
  private readonly boxes: number[] = [];
  private readonly nodes: number[] = [];

  constructor(
    private readonly corners: ArrayLike<number>,
    private readonly triangles: ArrayLike<number>,
  ) {
    const n = triangles.length / 3;
    this.order = Uint32Array.from({ length: n }, (_, i) => i);
    this.centres = new Float64Array(3 * n);
    for (let t = 0; t < n; t++)
      for (let k = 0; k < 3; k++)
        this.centres[3 * t + k] = (this.at(t, 0, k) + this.at(t, 1, k) + this.at(t, 2, k)) / 3;
    if (n > 0) this.build(0, n);
  }

  private at = (triangle: number, corner: number, axis: number): number =>
    this.corners[3 * this.triangles[3 * triangle + corner] + axis];

  private build(from: number, to: number): number {
    const node = this.nodes.length / 3,
      low = [Infinity, Infinity, Infinity],
      high = [-Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++)
      for (let c = 0; c < 3; c++)
        for (let k = 0; k < 3; k++) {
          const v = this.at(this.order[i], c, k);
          if (v < low[k]) low[k] = v;
          if (v > high[k]) high[k] = v;
        }
    this.boxes.push(...low, ...high);
    this.nodes.push(-1, from, to);
    if (to - from <= LEAF) return node;
    const axis = [0, 1, 2].reduce((a, b) => (high[b] - low[b] > high[a] - low[a] ? b : a)),
      part = this.order
        .subarray(from, to)
        .sort((a, b) => this.centres[3 * a + axis] - this.centres[3 * b + axis]),
      middle = from + (part.length >> 1);
    const left = this.build(from, middle),
      right = this.build(middle, to);
    this.nodes.splice(3 * node, 3, 0, left, right);
    return node;
  }

  /** The first triangle beyond `after` along a ray, its direction of length one; null where there is none. */
  first(from: ModelPoint, way: ModelPoint, after = 1e-6): Hit | null {
    if (this.nodes.length === 0) return null;
    let best: Hit | null = null;
    const open = [0];
    while (open.length > 0) {
      const node = open.pop()!;
      if (!this.meets(node, from, way, best?.distance ?? Infinity)) continue;
      const [kind, a, b] = [this.nodes[3 * node], this.nodes[3 * node + 1], this.nodes[3 * node + 2]];
      if (kind === 0) {
        open.push(a, b);
        continue;
      }
      for (let i = a; i < b; i++) {
        const distance = this.distanceTo(this.order[i], from, way);
        if (distance !== null && distance > after && distance < (best?.distance ?? Infinity))
          best = { distance, triangle: this.order[i] };
      }
    }
    return best;
  }

  private meets(node: number, from: ModelPoint, way: ModelPoint, most: number): boolean {
    let enter = 0,
      leave = most;
    for (let k = 0; k < 3; k++) {
      const low = this.boxes[6 * node + k] - from[k],
        high = this.boxes[6 * node + 3 + k] - from[k];
      if (Math.abs(way[k]) < 1e-15) {
        if (low > 1e-9 || high < -1e-9) return false;
        continue;
      }
      const [a, b] = way[k] > 0 ? [low / way[k], high / way[k]] : [high / way[k], low / way[k]];
      enter = Math.max(enter, a - 1e-9);
      leave = Math.min(leave, b + 1e-9);
    }
    return enter <= leave;
  }

  private distanceTo(t: number, from: ModelPoint, way: ModelPoint): number | null {
    const [ax, ay, az] = [this.at(t, 0, 0), this.at(t, 0, 1), this.at(t, 0, 2)],
      [ux, uy, uz] = [this.at(t, 1, 0) - ax, this.at(t, 1, 1) - ay, this.at(t, 1, 2) - az],
      [vx, vy, vz] = [this.at(t, 2, 0) - ax, this.at(t, 2, 1) - ay, this.at(t, 2, 2) - az],
      [px, py, pz] = [way[1] * vz - way[2] * vy, way[2] * vx - way[0] * vz, way[0] * vy - way[1] * vx],
      det = ux * px + uy * py + uz * pz;
    if (Math.abs(det) < 1e-14) return null;
    const [sx, sy, sz] = [from[0] - ax, from[1] - ay, from[2] - az],
      a = (sx * px + sy * py + sz * pz) / det;
    if (a < -1e-9 || a > 1 + 1e-9) return null;
    const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux],
      b = (way[0] * qx + way[1] * qy + way[2] * qz) / det;
    return b < -1e-9 || a + b > 1 + 1e-9 ? null : (vx * qx + vy * qy + vz * qz) / det;
  }
}
