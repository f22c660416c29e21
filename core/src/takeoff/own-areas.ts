import Flatbush from 'flatbush';
import { areaOf, type CutWalls } from '../building/index.ts';
import {
  boxOfPoints,
  makeRegion,
  regionContains,
  unionOf,
  type Point,
  type Ring,
} from '../geometry/index.ts';
import type { Wall } from '../model/index.ts';

/** Area that polygons cover together, square millimetres. */
const areaTogether = (rings: readonly Ring[]): number => (rings.length === 0 ? 0 : areaOf(unionOf(rings)));

/**
 * What each wall covers of the plan by itself, square millimetres: what two bodies share at a tee or a crossing counts for the one that
 * runs through, or for the first drawn. All of them together are the area of the joined outline.
 */
export function ownAreas(walls: readonly Wall[], { bodies, wedges }: CutWalls): Map<string, number> {
  const there = walls.filter((w) => bodies.has(w.id)),
    rings = there.map((w): Ring[] => [bodies.get(w.id)!, ...(wedges.get(w.id) ?? [])]),
    areas = new Map<string, number>();
  if (there.length === 0) return areas;
  const boxes = rings.map((r) => boxOfPoints(r.flat())),
    index = new Flatbush(there.length);
  for (const b of boxes) index.add(...b);
  index.finish();
  const regions = there.map((w) => makeRegion([bodies.get(w.id)!], 'nonzero'));
  const endsIn = (i: number, j: number) =>
    [there[i].from, there[i].to].some(([x, y]: Point) => regionContains(regions[j], x, y));
  there.forEach((wall, i) => {
    // Those that this one leaves to others what they share.
    const others = index.search(...boxes[i]).filter((j) => {
      if (j === i) return false;
      const [stem, through] = [endsIn(i, j), endsIn(j, i)];
      return stem === through ? j < i : stem;
    });
    const before = others.flatMap((j) => rings[j]);
    areas.set(
      wall.id,
      before.length === 0
        ? areaTogether(rings[i])
        : areaTogether([...before, ...rings[i]]) - areaTogether(before),
    );
  });
  return areas;
}
