import { distanceToSegment, makeRegion, regionContains, ringArea, type Ring } from './polygons.ts';
import type { Point } from './spaces.ts';

/** Points and edges nearer to one another than this, millimetres, touch. */
const TOUCHING = 1e-4;

const touch = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]) < TOUCHING;

/**
 * A polygon (its outline counter-clockwise, its holes clockwise) as polygons that are as wide as they look: where a ring comes back upon
 * itself, at a point or along a line, it is parted. Differences may leave two parts joined by a strip of no width, which has no sound
 * triangles.
 */
export function partedAtPinches(polygon: readonly Ring[]): (readonly Ring[])[] {
  const met = polygon.map(withTouches);
  if (met.every((ring, i) => ring.length === polygon[i].length && !repeats(ring))) return [polygon];
  const parts = met.flatMap(simpleParts),
    outlines = parts.filter((ring) => ringArea(ring) > 0),
    holes = parts.filter((ring) => ringArea(ring) < 0),
    regions = outlines.map((ring) => makeRegion([ring], 'nonzero')),
    // A hole may touch the outline with some of its points.
    ownerOf = (hole: Ring) =>
      regions.findIndex((region) => hole.some(([x, y]) => regionContains(region, x, y)));
  return outlines.map((outline, at) => [outline, ...holes.filter((hole) => ownerOf(hole) === at)]);
}

const repeats = (ring: Ring) => ring.some((p, i) => ring.some((q, j) => j > i && touch(p, q)));

/** The ring with a point on each of its edges wherever another of its points touches it. */
function withTouches(ring: Ring): Point[] {
  return ring.flatMap((p, i) => {
    const q = ring[(i + 1) % ring.length],
      far = ([x, y]: Point) => Math.hypot(x - p[0], y - p[1]);
    const on = ring.filter(
      (r) => !touch(r, p) && !touch(r, q) && distanceToSegment(...r, ...p, ...q) < TOUCHING,
    );
    return [p, ...on.sort((a, b) => far(a) - far(b))];
  });
}

/** A ring parted wherever it passes a point for the second time; what encloses nothing is dropped. */
function simpleParts(ring: Ring): Point[][] {
  const parts: Point[][] = [],
    way: Point[] = [];
  const take = (part: Point[]) => {
    if (part.length > 2 && Math.abs(ringArea(part)) > TOUCHING) parts.push(part);
  };
  for (const p of ring) {
    const before = way.findIndex((q) => touch(p, q));
    if (before >= 0) take(way.splice(before));
    way.push(p);
  }
  take(way);
  return parts;
}
