import {
  boxContains,
  boxesTouch,
  insideIntervals,
  intersectIntervals,
  isUprightBox,
  type Box,
  type Interval,
  type Region,
} from '../geometry/index.ts';

/** Half a hundredth of a point: 32-bit coordinates put a line on the edge of its own clip this far off. */
export const EDGE_TOLERANCE = 0.01;

/** A clip made ready: upright boxes are joined into one, the rest stay regions. */
export interface Clip {
  box: Box;
  regions: readonly Region[];
}

export function prepareClip(regions: readonly Region[], page: Box): Clip {
  let [x0, y0, x1, y1] = page;
  const rest: Region[] = [];
  for (const region of regions) {
    x0 = Math.max(x0, region.box[0]);
    y0 = Math.max(y0, region.box[1]);
    x1 = Math.min(x1, region.box[2]);
    y1 = Math.min(y1, region.box[3]);
    if (!isUprightBox(region)) rest.push(region);
  }
  return {
    box: [x0 - EDGE_TOLERANCE, y0 - EDGE_TOLERANCE, x1 + EDGE_TOLERANCE, y1 + EDGE_TOLERANCE],
    regions: rest,
  };
}

/** Does all of the box show? Most objects of most pages end here. */
export const showsWhole = (clip: Clip, box: Box): boolean =>
  clip.regions.length === 0 && boxContains(clip.box, box);

/** The parts of a segment inside the clip, as intervals of its parameter. */
export function visibleIntervals(clip: Clip, x0: number, y0: number, x1: number, y1: number): Interval[] {
  const inBox = clipToBox(clip.box, x0, y0, x1, y1);
  if (!inBox) return [];
  let parts: Interval[] = [inBox];
  for (const region of clip.regions) {
    if (!boxesTouch(region.box, [Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)]))
      return [];
    parts = intersectIntervals(parts, insideIntervals(region, x0, y0, x1, y1, -EDGE_TOLERANCE));
    if (parts.length === 0) return [];
  }
  return parts;
}

/** Liang-Barsky: the part of a segment inside an upright box. */
export function clipToBox(box: Box, x0: number, y0: number, x1: number, y1: number): Interval | null {
  const dx = x1 - x0,
    dy = y1 - y0;
  let from = 0,
    to = 1;
  for (const [p, q] of [
    [-dx, x0 - box[0]],
    [dx, box[2] - x0],
    [-dy, y0 - box[1]],
    [dy, box[3] - y0],
  ]) {
    if (p === 0) {
      if (q < 0) return null;
      continue;
    }
    const t = q / p;
    if (p < 0) from = Math.max(from, t);
    else to = Math.min(to, t);
    if (from > to) return null;
  }
  return [from, to];
}

/** Pieces that a curve is walked in to find where it shows. */
const CURVE_PIECES = 96;

/** The parts of a curve inside the clip, as intervals of its parameter 0..1, to a fine polyline's accuracy. */
export function visibleCurveIntervals(clip: Clip, at: (t: number) => readonly [number, number]): Interval[] {
  const out: [number, number][] = [];
  let [px, py] = at(0);
  for (let i = 1; i <= CURVE_PIECES; i++) {
    const [x, y] = at(i / CURVE_PIECES);
    for (const [a, b] of visibleIntervals(clip, px, py, x, y)) {
      const from = (i - 1 + a) / CURVE_PIECES,
        to = (i - 1 + b) / CURVE_PIECES;
      const last = out[out.length - 1];
      if (last && from - last[1] < 1e-9) last[1] = to;
      else out.push([from, to]);
    }
    px = x;
    py = y;
  }
  return out;
}
