import Flatbush from 'flatbush';
import {
  insideIntervals,
  intersectIntervals,
  subtractIntervals,
  type Box,
  type Interval,
  type Region,
} from '../geometry/index.ts';

/**
 * A painted area, inside all its regions. `opaque`: what was painted before it cannot be seen.
 * `paper`: it looks like bare paper, so paper-coloured lines on it cannot be seen either.
 */
export interface Cover {
  order: number;
  regions: readonly Region[];
  box: Box;
  paper: boolean;
  opaque: boolean;
}

/** A line nearer than this to a cover's outline still shows beside it (sheet points). */
const COVER_MARGIN = 0.05;
/** Remaining parts shorter than this fraction are no line any more. */
const NOTHING_LEFT = 1e-6;

/** Answers what later (or earlier) opaque areas hide of a segment. */
export class Covers {
  private index: Flatbush | null = null;
  private readonly covers: readonly Cover[];
  constructor(all: readonly Cover[]) {
    const covers = all.filter((c) => c.opaque);
    this.covers = covers;
    if (covers.length === 0) return;
    this.index = new Flatbush(covers.length);
    for (const { box } of covers) this.index.add(box[0], box[1], box[2], box[3]);
    this.index.finish();
  }

  /** Is the whole segment, painted at `order` with a pen of `width`, under what was painted later? */
  hides(order: number, width: number, x0: number, y0: number, x1: number, y1: number): boolean {
    if (!this.index) return false;
    const margin = Math.max(COVER_MARGIN, width / 4);
    const near = this.index.search(
      Math.min(x0, x1),
      Math.min(y0, y1),
      Math.max(x0, x1),
      Math.max(y0, y1),
      (i) => this.covers[i].order > order,
    );
    let left: Interval[] = [[0, 1]];
    for (const i of near) {
      left = subtractIntervals(left, partsUnder(this.covers[i], x0, y0, x1, y1, margin));
      if (left.reduce((s, [a, b]) => s + b - a, 0) < NOTHING_LEFT) return true;
    }
    return false;
  }
}

export function partsUnder(
  cover: Cover,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  margin: number,
): Interval[] {
  let parts: Interval[] = [[0, 1]];
  for (const region of cover.regions) {
    parts = intersectIntervals(parts, insideIntervals(region, x0, y0, x1, y1, margin));
    if (parts.length === 0) break;
  }
  return parts;
}

/** Is any part of the segment drawn over something that is not paper? The latest paint decides. */
export function liesOnInk(
  earlier: readonly Cover[],
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): boolean {
  let open: Interval[] = [[0, 1]];
  for (let i = earlier.length - 1; i >= 0 && open.length > 0; i--) {
    const cover = earlier[i];
    if (
      Math.max(x0, x1) < cover.box[0] ||
      Math.min(x0, x1) > cover.box[2] ||
      Math.max(y0, y1) < cover.box[1] ||
      Math.min(y0, y1) > cover.box[3]
    )
      continue;
    const parts = intersectIntervals(open, partsUnder(cover, x0, y0, x1, y1, 0));
    if (parts.length === 0) continue;
    if (!cover.paper) return true;
    open = subtractIntervals(open, parts);
  }
  return false;
}
