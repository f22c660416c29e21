import {
  arcOf,
  bandOf,
  pointAt,
  straightParts,
  throughOpeningsOf,
  type WallBand,
} from '../building/index.ts';
import { heightAt, insideIntervals, makeRegion, type Interval } from '../geometry/index.ts';
import { footOf, topOf, type Wall } from '../model/index.ts';
import type { Cover } from '../solids/index.ts';

/** One face of a wall along its drawn line, square millimetres: whole, and without its openings. Those over one another count once, where they do; the back of a niche counts as its face. */
export function faceOf(wall: Wall, covers: readonly Cover[]): { gross: number; net: number } {
  const arc = arcOf(wall);
  if (arc) {
    // Its straight parts are as long together as the arc, but for what they stray where it is not drawn by its middle.
    const faces = straightParts(wall).map((p) => ({ length: p.band.length, ...faceOf(p.wall, covers) })),
      sum = (of: (f: (typeof faces)[number]) => number) => faces.reduce((n, f) => n + of(f), 0),
      gross = (sum((f) => f.gross) * arc.length) / sum((f) => f.length);
    return { gross, net: gross - sum((f) => f.gross - f.net) };
  }
  const band = bandOf(wall),
    tops = topsOf(wall, band, covers),
    openings = throughOpeningsOf(wall),
    foot = footOf(wall),
    bounds = [
      ...new Set([
        0,
        band.length,
        ...openings.flatMap((o) => [o.from, o.to]),
        ...tops.flatMap((t) => [t.from, t.to]),
      ]),
    ].sort((a, b) => a - b);
  let gross = 0,
    open = 0;
  for (let i = 0; i + 1 < bounds.length; i++) {
    const [from, to] = [bounds[i], bounds[i + 1]],
      middle = (from + to) / 2,
      top = tops.find((t) => t.from <= middle && t.to >= middle)!.at;
    gross += (to - from) * (top(middle) - foot);
    const heights = openings
      .filter((o) => o.from <= from && o.to >= to)
      // Under a slope an opening may be cut by it within the stretch: a few places stand for all.
      .map(({ opening }): [number, number] => [Math.max(foot, opening.sill), opening.head]);
    if (heights.length > 0) open += openUnder(heights, from, to, top);
  }
  return { gross, net: gross - open };
}

/** Open area of a stretch whose top rises evenly: split where the top passes a sill or a head. */
function openUnder(
  heights: readonly [number, number][],
  from: number,
  to: number,
  top: (t: number) => number,
): number {
  const [a, b] = [top(from), top(to)],
    marks = a === b ? [] : heights.flat().map((h) => from + ((h - a) / (b - a)) * (to - from)),
    bounds = [from, ...marks.filter((t) => t > from && t < to).sort((p, q) => p - q), to];
  let sum = 0;
  for (let i = 0; i + 1 < bounds.length; i++) {
    const middle = (bounds[i] + bounds[i + 1]) / 2,
      cut = heights.map(([low, high]): Interval => [low, Math.min(high, top(middle))]);
    sum += (bounds[i + 1] - bounds[i]) * lengthOfUnion(cut.filter(([low, high]) => high > low));
  }
  return sum;
}

/** The drawn line may run along the edge of a roof: which plane lies over it is asked this far beside it, into the wall, millimetres. */
const BESIDE = 0.01;

interface Top {
  from: number;
  to: number;
  at(t: number): number;
}

/** How high above the floor a wall reaches along its drawn line; nowhere below its foot. */
function topsOf(wall: Wall, band: WallBand, covers: readonly Cover[]): Top[] {
  const tops: Top[] = [];
  const beside = band.left >= band.right ? BESIDE : -BESIDE,
    [x0, y0] = pointAt(band, 0, beside),
    [x1, y1] = pointAt(band, band.length, beside);
  if (wall.underRoof)
    for (const { ring, underside } of covers)
      for (const [t0, t1] of insideIntervals(makeRegion([ring], 'nonzero'), x0, y0, x1, y1, 0))
        tops.push({
          from: t0 * band.length,
          to: t1 * band.length,
          at: (t) => Math.max(footOf(wall), heightAt(underside, pointAt(band, t, 0))),
        });
  // What no roof covers has the wall's own height.
  return [...tops, { from: 0, to: band.length, at: () => topOf(wall) }];
}

function lengthOfUnion(intervals: readonly Interval[]): number {
  let total = 0,
    end = -Infinity;
  for (const [from, to] of [...intervals].sort((a, b) => a[0] - b[0])) {
    total += Math.max(0, to - Math.max(from, end));
    end = Math.max(end, to);
  }
  return total;
}
