import {
  halfOfRing,
  nichesOf,
  openingsOf,
  straightParts,
  throughOpeningsOf,
  type NicheInWall,
  type OpeningInWall,
  type WallBand,
} from '../building/index.ts';
import { outlineOf, type Block, type Polygon, type Ring } from '../geometry/index.ts';
import { footOf, topOf, type Wall, type WallOpening } from '../model/index.ts';
import { upToRoof, type Cover } from './under-roof.ts';

/** Heights above the floor at which a wall is solid; Infinity stands for its top, wherever that is. */
type Heights = readonly [number, number][];

/** A stretch along a wall, in slices across it: where it is solid between two distances to the left of its line. */
interface Stretch {
  from: number;
  to: number;
  slices: readonly Slice[];
}
interface Slice {
  right: number;
  left: number;
  solid: Heights;
}

/** Solid from its foot to its top. */
const ALL: Heights = [[-Infinity, Infinity]],
  WHOLE: readonly Slice[] = [{ right: -Infinity, left: Infinity, solid: ALL }];

/**
 * A wall, as it stands, as blocks: what it covers of the plan by itself, less its openings between their sills and heads, from its foot up
 * to its height or to the roof over it; heights are above the floor of its storey.
 */
export function wallBlocks(wall: Wall, covers: readonly Polygon[], roofs: readonly Cover[] = []): Block[] {
  const above = wall.underRoof ? roofs : [];
  return straightParts(wall).flatMap(({ wall: part, band, slice }) => {
    // In a bent wall an opening takes all of its part, up to the lines on which it meets its neighbours.
    const through = wall.curve ? throughOpeningsOf(part) : [],
      stretches =
        through.length > 0
          ? [{ from: -Infinity, to: Infinity, slices: slicesOf(through, nichesOf(part), spanOf(part)) }]
          : stretchesOf(part);
    return covers.flatMap((rings) => {
      const own = wall.curve ? rings.map(slice).filter((ring) => ring.length > 2) : rings;
      return stretches.flatMap(({ from, to, slices }) =>
        inSlices(
          own.flatMap((ring) => between(ring, band, from, to)),
          slices,
          band,
          part,
          above,
        ),
      );
    });
  });
}

/** From where to where a wall stands above the floor; up to a roof without an end. */
const spanOf = (wall: Wall): readonly [low: number, high: number] => [
  footOf(wall),
  wall.underRoof ? Infinity : topOf(wall),
];

function inSlices(
  part: Polygon,
  slices: readonly Slice[],
  band: WallBand,
  wall: Wall,
  roofs: readonly Cover[],
): Block[] {
  // Seen across, distances along it are those to the left of the wall's line.
  const across: WallBand = { ...band, ux: -band.uy, uy: band.ux };
  return slices.flatMap(({ right, left, solid }) => {
    const within = part.flatMap((ring) => between(ring, across, right, left));
    return within.length === 0
      ? []
      : solid.flatMap(([low, high]) => standing(within, low, high, wall, roofs));
  });
}

function standing(part: Polygon, from: number, high: number, wall: Wall, roofs: readonly Cover[]): Block[] {
  const low = Math.max(from, footOf(wall)),
    top = topOf(wall);
  // Below a sill the roof is of no account, and a wall without one has no other top than its height.
  if (high < Infinity) return [{ outline: outlineOf(part), low, high }];
  if (roofs.length > 0) return upToRoof(part, low, roofs, top);
  return low < top ? [{ outline: outlineOf(part), low, high: top }] : [];
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
  const bounds = [...new Set(openingsOf(wall).flatMap((o) => [o.from, o.to]))].sort((a, b) => a - b),
    through = throughOpeningsOf(wall),
    niches = nichesOf(wall),
    span = spanOf(wall),
    out: Stretch[] = [];
  let from = -Infinity;
  const add = (to: number, slices: Stretch['slices']) => {
    const last = out.at(-1);
    // What is whole on both sides of an edge that cuts nothing stays in one piece.
    if (last && last.slices === WHOLE && slices === WHOLE) last.to = to;
    else out.push({ from, to, slices });
    from = to;
  };
  for (const [i, at] of bounds.entries()) {
    const within = (o: OpeningInWall) => o.from <= bounds[i - 1] && o.to >= at;
    add(at, i === 0 ? WHOLE : slicesOf(through.filter(within), niches.filter(within), span));
  }
  add(Infinity, WHOLE);
  return out;
}

/** The slices across a stretch of wall that openings take up from end to end, and how high each is solid. */
function slicesOf(
  through: readonly OpeningInWall[],
  niches: readonly NicheInWall[],
  span: readonly [number, number],
): readonly Slice[] {
  const bounds = [...new Set(niches.map((n) => (n.toLeft ? n.right : n.left)))].sort((a, b) => a - b),
    slices = [-Infinity, ...bounds].map((right, i): Slice => {
      const left = bounds[i] ?? Infinity,
        cut = niches.filter((n) => (n.toLeft ? right >= n.right : left <= n.left)),
        open = heightsOpen(
          [...through, ...cut].map((o) => o.opening),
          span,
        );
      return { right, left, solid: open.length === 0 ? ALL : heightsLeft(open, span) };
    });
  return slices.every((s) => s.solid === ALL) ? WHOLE : slices;
}

/** The heights at which openings are open, in order. */
const heightsOpen = (
  openings: readonly WallOpening[],
  [foot, top]: readonly [number, number],
): [number, number][] =>
  openings
    .map(({ sill, head }): [number, number] => [Math.max(foot, sill), Math.min(top, head)])
    .filter(([low, high]) => high > low)
    .sort((a, b) => a[0] - b[0]);

/** What is left of a height beside what is open, in order; what reaches the top does so wherever that is. */
function heightsLeft(
  open: readonly [number, number][],
  [foot, top]: readonly [number, number],
): [number, number][] {
  const left: [number, number][] = [];
  let at = foot;
  for (const [low, high] of open) {
    if (low > at) left.push([at, low]);
    at = Math.max(at, high);
  }
  if (at < top) left.push([at, Infinity]);
  return left;
}
