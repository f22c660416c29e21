import { bandOf, halfOfRing, openingsOf, type WallBand } from '../building/index.ts';
import { outlineOf, type Block, type Polygon, type Ring } from '../geometry/index.ts';
import type { Wall } from '../model/index.ts';
import { upToRoof, type Cover } from './under-roof.ts';

/** A stretch along a wall with the heights at which it is solid; Infinity stands for its top, wherever that is. */
interface Stretch {
  from: number;
  to: number;
  solid: readonly [number, number][];
}

const WHOLE: readonly [number, number][] = [[0, Infinity]];

/**
 * A wall as blocks: what it covers of the plan by itself, less its openings between their sills and heads, up to its height or to the
 * roof over it; above the foot of the wall.
 */
export function wallBlocks(wall: Wall, covers: readonly Polygon[], roofs: readonly Cover[] = []): Block[] {
  const band = bandOf(wall),
    above = wall.underRoof ? roofs : [];
  return stretchesOf(wall).flatMap(({ from, to, solid }) =>
    covers.flatMap((rings) => {
      const part = rings.flatMap((ring) => between(ring, band, from, to));
      return part.length === 0 ? [] : solid.flatMap(([low, high]) => standing(part, low, high, wall, above));
    }),
  );
}

function standing(
  part: Polygon,
  low: number,
  high: number,
  { height }: Wall,
  roofs: readonly Cover[],
): Block[] {
  // Below a sill the roof is of no account, and a wall without one has no other top than its height.
  if (high < Infinity) return [{ outline: outlineOf(part), low, high }];
  if (roofs.length > 0) return upToRoof(part, low, roofs, height);
  return low < height ? [{ outline: outlineOf(part), low, high: height }] : [];
}

/** The part of a ring between two distances along a wall. */
function between(ring: Ring, band: WallBand, from: number, to: number): Ring[] {
  let part = ring;
  if (from > -Infinity) part = halfOfRing(part, band, from, 1);
  if (to < Infinity) part = halfOfRing(part, band, to, -1);
  return part.length > 2 ? [part] : [];
}

/** A wall along its length, each stretch with what openings leave of its height. */
function stretchesOf(wall: Wall): Stretch[] {
  const openings = openingsOf(wall),
    bounds = [...new Set(openings.flatMap((o) => [o.from, o.to]))].sort((a, b) => a - b),
    top = wall.underRoof ? Infinity : wall.height,
    out: Stretch[] = [];
  let from = -Infinity;
  const add = (to: number, solid: Stretch['solid']) => {
    const last = out.at(-1);
    // What is whole on both sides of an edge that cuts nothing stays in one piece.
    if (last && last.solid === WHOLE && solid === WHOLE) last.to = to;
    else out.push({ from, to, solid });
    from = to;
  };
  for (const [i, at] of bounds.entries()) {
    const open = i === 0 ? [] : openBetween(openings, bounds[i - 1], at, top);
    add(at, open.length === 0 ? WHOLE : heightsLeft(open, top));
  }
  add(Infinity, WHOLE);
  return out;
}

function openBetween(
  openings: ReturnType<typeof openingsOf>,
  from: number,
  to: number,
  top: number,
): [number, number][] {
  return openings
    .filter((o) => o.from <= from && o.to >= to)
    .map(({ opening }): [number, number] => [Math.max(0, opening.sill), Math.min(top, opening.head)])
    .filter(([low, high]) => high > low)
    .sort((a, b) => a[0] - b[0]);
}

/** What is left of a height beside what is open, in order; what reaches the top does so wherever that is. */
function heightsLeft(open: readonly [number, number][], top: number): [number, number][] {
  const left: [number, number][] = [];
  let at = 0;
  for (const [low, high] of open) {
    if (low > at) left.push([at, low]);
    at = Math.max(at, high);
  }
  if (at < top) left.push([at, Infinity]);
  return left;
}
