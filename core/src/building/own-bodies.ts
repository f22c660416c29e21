import Flatbush from 'flatbush';
import {
  boxOfPoints,
  cleanRing,
  differenceOf,
  makeRegion,
  regionContains,
  unionOf,
  type Point,
  type Polygon,
  type Ring,
} from '../geometry/index.ts';
import type { Wall } from '../model/index.ts';
import type { CutWalls } from './joins.ts';

/**
 * What each wall covers of the plan by itself: what two bodies share at a tee or a crossing counts for the one that runs through, or for
 * the first drawn. All of them together are the joined outline, and none lies over another.
 */
export function ownBodies(walls: readonly Wall[], { bodies, wedges }: CutWalls): Map<string, Polygon[]> {
  const there = walls.filter((w) => bodies.has(w.id)),
    rings = there.map((w): Ring[] => [bodies.get(w.id)!, ...(wedges.get(w.id) ?? [])]),
    own = new Map<string, Polygon[]>();
  if (there.length === 0) return own;
  const boxes = rings.map((r) => boxOfPoints(r.flat())),
    index = new Flatbush(there.length);
  for (const b of boxes) index.add(...b);
  index.finish();
  const regions = there.map((w) => makeRegion([bodies.get(w.id)!], 'nonzero'));
  const endsIn = (i: number, j: number) =>
    [there[i].from, there[i].to].some(([x, y]: Point) => regionContains(regions[j], x, y));
  const near = boxes.map((box, i) => index.search(...box).filter((j) => j !== i)),
    // The walls that a wall runs into, as a stem does, come before it.
    places = placesInOrder(near.map((list, i) => list.filter((j) => endsIn(i, j) && !endsIn(j, i))));
  there.forEach((wall, i) => {
    const before = near[i].filter((j) => places[j] < places[i]).flatMap((j) => rings[j]);
    own.set(wall.id, leftOf(rings[i], before));
  });
  return own;
}

/** The place of each in one order in which none comes before those that it names; where they name one another round, the first does. */
function placesInOrder(after: readonly (readonly number[])[]): number[] {
  const places = after.map(() => -1),
    open = new Set<number>();
  let count = 0;
  const visit = (i: number): void => {
    if (places[i] >= 0 || open.has(i)) return;
    open.add(i);
    after[i].forEach(visit);
    places[i] = count++;
  };
  after.forEach((_, i) => visit(i));
  return places;
}

/** A body with its wedges, without what others have of it. */
function leftOf(rings: readonly Ring[], before: readonly Ring[]): Polygon[] {
  const whole: Polygon[] = rings.length === 1 ? [[cleanRing(rings[0])]] : unionOf(rings);
  return before.length === 0 ? whole : whole.flatMap((polygon) => differenceOf(polygon, before));
}
