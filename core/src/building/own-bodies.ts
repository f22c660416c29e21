import Flatbush from 'flatbush';
import {
  boxOfPoints,
  cleanRing,
  crossesItself,
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
import { joinedByLayers, passOn, type CoreOf } from './layer-joins.ts';

/**
 * What each wall covers of the plan by itself: what two bodies share at a tee or a crossing counts for the one that runs through, or for
 * the first drawn; of those of which `coreOf` knows the layers like meets like, and a core goes on through a finish. All of them together
 * are the joined outline, and none lies over another.
 */
export function ownBodies(
  walls: readonly Wall[],
  cut: Pick<CutWalls, 'bodies' | 'wedges' | 'meets'>,
  coreOf: CoreOf = () => null,
): Map<string, Polygon[]> {
  const { wedges } = cut,
    { bodies, passes } = joinedByLayers(walls, cut, coreOf);
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
    const before = near[i]
      .filter((j) => places[j] < places[i])
      .flatMap((j) => rings[j])
      .filter((other) => rings[i].some((ring) => !isApart(ring, other)));
    own.set(wall.id, leftOf(rings[i], before));
  });
  passOn(own, passes);
  return own;
}

/** Bodies that share less than this, millimetres across, only touch. */
const TOUCHING = 1e-6;

/** Is there a side of one of two rings beyond which the whole other lies? They share nothing then; where there is none they may. */
function isApart(a: Ring, b: Ring): boolean {
  return [
    [a, b],
    [b, a],
  ].some(([own, other]) =>
    own.some((p, i) => {
      const q = own[(i + 1) % own.length],
        length = Math.hypot(q[0] - p[0], q[1] - p[1]);
      if (length === 0) return false;
      const [nx, ny] = [(q[1] - p[1]) / length, (p[0] - q[0]) / length],
        along = ([x, y]: Point) => (x - p[0]) * nx + (y - p[1]) * ny;
      const [low, high] = extentOf(own, along),
        [otherLow, otherHigh] = extentOf(other, along);
      return otherLow >= high - TOUCHING || otherHigh <= low + TOUCHING;
    }),
  );
}

function extentOf(ring: Ring, along: (p: Point) => number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const p of ring) {
    const t = along(p);
    if (t < low) low = t;
    if (t > high) high = t;
  }
  return [low, high];
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
  // The mitres of a wall shorter than it is thick cross one another.
  const whole: Polygon[] =
    rings.length === 1 && !crossesItself(rings[0]) ? [[cleanRing(rings[0])]] : unionOf(rings);
  return before.length === 0 ? whole : whole.flatMap((polygon) => differenceOf(polygon, before));
}
