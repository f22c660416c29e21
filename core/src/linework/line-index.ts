import Flatbush from 'flatbush';
import type { SheetPoint } from '../geometry/index.ts';

/** Straight lines (x0, y0, x1, y1 each) found by place. */
export class LineIndex {
  private readonly tree: Flatbush | null;

  /** `ids`: which of the lines count. */
  constructor(
    readonly lines: Float64Array,
    private readonly ids: Int32Array,
  ) {
    this.tree = ids.length === 0 ? null : new Flatbush(ids.length, 16, Float32Array);
    for (const i of ids) {
      const k = 4 * i;
      // A hair wider, since the index keeps 32 bits.
      this.tree!.add(
        Math.min(lines[k], lines[k + 2]) - 0.05,
        Math.min(lines[k + 1], lines[k + 3]) - 0.05,
        Math.max(lines[k], lines[k + 2]) + 0.05,
        Math.max(lines[k + 1], lines[k + 3]) + 0.05,
      );
    }
    this.tree?.finish();
  }

  inBox(x0: number, y0: number, x1: number, y1: number): number[] {
    return this.tree ? this.tree.search(x0, y0, x1, y1).map((k) => this.ids[k]) : [];
  }

  /** Lines that may touch the stretch from `p` to `q`, within `reach` of it; a slanted stretch is asked for in pieces. */
  along(p: SheetPoint, q: SheetPoint, reach: number): number[] {
    const dx = q[0] - p[0],
      dy = q[1] - p[1];
    const slanted = Math.min(Math.abs(dx), Math.abs(dy)) > 4 * reach;
    if (!slanted)
      return this.inBox(
        Math.min(p[0], q[0]) - reach,
        Math.min(p[1], q[1]) - reach,
        Math.max(p[0], q[0]) + reach,
        Math.max(p[1], q[1]) + reach,
      );
    const pieces = Math.ceil(Math.hypot(dx, dy) / SLANTED_PIECE);
    const found = new Set<number>();
    for (let i = 0; i < pieces; i++) {
      const a = [p[0] + (dx * i) / pieces, p[1] + (dy * i) / pieces],
        b = [p[0] + (dx * (i + 1)) / pieces, p[1] + (dy * (i + 1)) / pieces];
      for (const k of this.inBox(
        Math.min(a[0], b[0]) - reach,
        Math.min(a[1], b[1]) - reach,
        Math.max(a[0], b[0]) + reach,
        Math.max(a[1], b[1]) + reach,
      ))
        found.add(k);
    }
    return [...found];
  }
}

const SLANTED_PIECE = 30;
