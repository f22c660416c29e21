import { sideOf } from './side.ts';
import type { Box, Point } from './spaces.ts';

export type Ring = readonly Point[];
export type FillRule = 'nonzero' | 'evenodd';

/** A region of rings under a fill rule, with its bounding box. */
export interface Region {
  rings: readonly Ring[];
  rule: FillRule;
  box: Box;
}

export function boxOfPoints(points: Iterable<Point>): Box {
  let x0 = Infinity,
    y0 = Infinity,
    x1 = -Infinity,
    y1 = -Infinity;
  for (const [x, y] of points) {
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
  }
  return [x0, y0, x1, y1];
}

export function makeRegion(rings: readonly Ring[], rule: FillRule): Region {
  return { rings, rule, box: boxOfPoints(rings.flat()) };
}

export const boxRing = ([x0, y0, x1, y1]: Box): Ring => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

export function boxesTouch(a: Box, b: Box): boolean {
  return a[0] <= b[2] && b[0] <= a[2] && a[1] <= b[3] && b[1] <= a[3];
}

export function boxContains(outer: Box, inner: Box): boolean {
  return outer[0] <= inner[0] && outer[1] <= inner[1] && outer[2] >= inner[2] && outer[3] >= inner[3];
}

/** A box larger by so much on each side. */
export const grownBox = ([x0, y0, x1, y1]: Box, by: number): Box => [x0 - by, y0 - by, x1 + by, y1 + by];

export const unionBox = (a: Box, b: Box): Box => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[2], b[2]),
  Math.max(a[3], b[3]),
];

/** Is the region one upright rectangle? Then clipping by it needs its box alone. */
export function isUprightBox(region: Region): boolean {
  if (region.rings.length !== 1) return false;
  const ring = region.rings[0];
  const last = ring[ring.length - 1];
  const n = ring.length === 5 && last[0] === ring[0][0] && last[1] === ring[0][1] ? 4 : ring.length;
  if (n !== 4) return false;
  const [a, b, c, d] = ring;
  // Coordinates of PDF files are 32-bit; a hundredth of a micron of slant is none.
  const same = (p: number, q: number) => Math.abs(p - q) < 1e-4;
  return (
    (same(a[0], b[0]) && same(b[1], c[1]) && same(c[0], d[0]) && same(d[1], a[1])) ||
    (same(a[1], b[1]) && same(b[0], c[0]) && same(c[1], d[1]) && same(d[0], a[0]))
  );
}

export function regionContains(region: Region, x: number, y: number): boolean {
  if (x < region.box[0] || x > region.box[2] || y < region.box[1] || y > region.box[3]) return false;
  let winding = 0;
  const edge = (x0: number, y0: number, x1: number, y1: number) => {
    if (y0 > y === y1 > y) return;
    const upwards = y1 > y0;
    if (upwards ? sideOf(x0, y0, x1, y1, x, y) > 0 : sideOf(x1, y1, x0, y0, x, y) > 0)
      winding += upwards ? 1 : -1;
  };
  const bands = bandsOf(region);
  if (bands) {
    const { edges, height, list } = bands;
    for (const at of list[Math.min(list.length - 1, Math.floor((y - region.box[1]) / height))])
      edge(edges[at], edges[at + 1], edges[at + 2], edges[at + 3]);
  } else {
    for (const ring of region.rings)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++)
        edge(ring[j][0], ring[j][1], ring[i][0], ring[i][1]);
  }
  return region.rule === 'evenodd' ? (winding & 1) === 1 : winding !== 0;
}

/** Edges (x0, y0, x1, y1) of a region, and for each level band the places of those that reach into it. */
interface Bands {
  edges: Float64Array;
  height: number;
  list: readonly (readonly number[])[];
}

/** Regions of fewer edges are gone through whole; about so many edges stand in a band. */
const BANDED_FROM = 256,
  EDGES_A_BAND = 8,
  MOST_BANDS = 1024;
const banded = new WeakMap<Region, Bands>();

/** A region of many edges is asked thousands of times: only what is on the level of the point is looked at. */
function bandsOf(region: Region): Bands | null {
  const known = banded.get(region);
  if (known) return known;
  const count = region.rings.reduce((n, ring) => n + ring.length, 0),
    [, bottom, , top] = region.box;
  if (count < BANDED_FROM || !(top > bottom) || !Number.isFinite(top - bottom)) return null;
  const bands = Math.min(MOST_BANDS, Math.ceil(count / EDGES_A_BAND)),
    height = (top - bottom) / bands;
  const edges = new Float64Array(4 * count),
    list: number[][] = Array.from({ length: bands }, () => []);
  const bandAt = (y: number) => Math.max(0, Math.min(bands - 1, Math.floor((y - bottom) / height)));
  let at = 0;
  for (const ring of region.rings) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      edges.set([ring[j][0], ring[j][1], ring[i][0], ring[i][1]], at);
      for (
        let band = bandAt(Math.min(ring[j][1], ring[i][1])), last = bandAt(Math.max(ring[j][1], ring[i][1]));
        band <= last;
        band++
      )
        list[band].push(at);
      at += 4;
    }
  }
  const made: Bands = { edges, height, list };
  banded.set(region, made);
  return made;
}

/** Distance from a point to the nearest edge of the region. */
export function distanceToOutline(region: Region, x: number, y: number): number {
  let best = Infinity;
  for (const ring of region.rings) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      best = Math.min(best, distanceToSegment(x, y, ring[j][0], ring[j][1], ring[i][0], ring[i][1]));
    }
  }
  return best;
}

/** Does an edge of the region come nearer to the point than so far? */
export function outlineIsWithin(region: Region, x: number, y: number, within: number): boolean {
  const bands = bandsOf(region);
  if (!bands) return distanceToOutline(region, x, y) < within;
  const { edges, height, list } = bands,
    bandAt = (at: number) =>
      Math.max(0, Math.min(list.length - 1, Math.floor((at - region.box[1]) / height)));
  for (let band = bandAt(y - within), last = bandAt(y + within); band <= last; band++) {
    for (const at of list[band])
      if (distanceToSegment(x, y, edges[at], edges[at + 1], edges[at + 2], edges[at + 3]) < within)
        return true;
  }
  return false;
}

export function distanceToSegment(
  x: number,
  y: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): number {
  const dx = x1 - x0,
    dy = y1 - y0;
  const len2 = dx * dx + dy * dy;
  const t = len2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - x0) * dx + (y - y0) * dy) / len2));
  const ex = x - x0 - t * dx,
    ey = y - y0 - t * dy;
  // Not Math.hypot: this is asked thousands of times for one move of the pointer.
  return Math.sqrt(ex * ex + ey * ey);
}

/** Length round a ring. */
export const ringLength = (ring: Ring): number =>
  ring.reduce((sum, [x, y], i) => {
    const [u, v] = ring[(i + 1) % ring.length];
    return sum + Math.hypot(u - x, v - y);
  }, 0);

/** Signed area, positive for counter-clockwise rings with y up. */
export function ringArea(ring: Ring): number {
  let twice = 0;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++)
    twice += ring[j][0] * ring[i][1] - ring[i][0] * ring[j][1];
  return twice / 2;
}

/** A ring with its points in one order: counter-clockwise, or the other way round. */
export const ringTurning = (ring: Ring, counterClockwise: boolean): Ring =>
  ringArea(ring) > 0 === counterClockwise ? ring : [...ring].reverse();

/** Where a line meets edges of the region: parameters along it in order, and how the winding changes when it is followed beyond each. */
interface Crossings {
  at: number[];
  change: number[];
  /** Of the line's part before the first of them. */ winding: number;
}

/**
 * All crossings of the segment's line. An end of an edge on the line counts to its left, so that each crossing counts once, and the
 * windings follow from one another: asking for each part anew took hours where a page is made of such.
 */
function crossingsOf(region: Region, x0: number, y0: number, x1: number, y1: number): Crossings {
  const dx = x1 - x0,
    dy = y1 - y0;
  const found: { t: number; turn: number }[] = [];
  let winding = 0;
  for (const ring of region.rings) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [ax, ay] = ring[j],
        [bx, by] = ring[i];
      const a = sideOf(x0, y0, x1, y1, ax, ay),
        b = sideOf(x0, y0, x1, y1, bx, by);
      if (a >= 0 === b >= 0) continue;
      const share = a / (a - b),
        turn = b >= 0 ? 1 : -1;
      const t =
        ((ax + share * (bx - ax) - x0) * dx + (ay + share * (by - ay) - y0) * dy) / (dx * dx + dy * dy);
      if (t <= 0) continue;
      winding += turn;
      if (t < 1) found.push({ t, turn });
    }
  }
  found.sort((p, q) => p.t - q.t);
  return { at: found.map((c) => c.t), change: found.map((c) => -c.turn), winding };
}

export type Interval = readonly [number, number];

/**
 * The parts of a segment, as parameter intervals, that lie inside the region.
 * `margin` > 0 asks for more than that distance from the outline; `margin` < 0 also takes what lies
 * outside by less than it (a line drawn along the edge of its own clip is half visible).
 */
export function insideIntervals(
  region: Region,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  margin: number,
): Interval[] {
  const { at, change, winding: first } = crossingsOf(region, x0, y0, x1, y1);
  const out: [number, number][] = [];
  let winding = first;
  for (let i = 0; i <= at.length; i++) {
    const from = i === 0 ? 0 : at[i - 1],
      to = i === at.length ? 1 : at[i];
    if (i > 0) winding += change[i - 1];
    if (to - from < 1e-12) continue;
    const m = (from + to) / 2;
    const x = x0 + m * (x1 - x0),
      y = y0 + m * (y1 - y0);
    const inside = region.rule === 'evenodd' ? (winding & 1) === 1 : winding !== 0;
    const taken =
      margin >= 0
        ? inside && (margin === 0 || !outlineIsWithin(region, x, y, margin))
        : inside || outlineIsWithin(region, x, y, -margin);
    if (!taken) continue;
    const last = out[out.length - 1];
    if (last && from - last[1] < 1e-9) last[1] = to;
    else out.push([from, to]);
  }
  return out;
}

export function intersectIntervals(a: readonly Interval[], b: readonly Interval[]): Interval[] {
  const out: Interval[] = [];
  for (const [p, q] of a)
    for (const [r, s] of b)
      if (Math.min(q, s) - Math.max(p, r) > 1e-12) out.push([Math.max(p, r), Math.min(q, s)]);
  return out;
}

export function subtractIntervals(a: readonly Interval[], b: readonly Interval[]): Interval[] {
  let rest = [...a];
  for (const [r, s] of b) {
    rest = rest.flatMap(([p, q]) => {
      if (s <= p || r >= q) return [[p, q] as Interval];
      return (
        [
          [p, r],
          [s, q],
        ] as Interval[]
      ).filter(([u, v]) => v - u > 1e-12);
    });
  }
  return rest;
}
