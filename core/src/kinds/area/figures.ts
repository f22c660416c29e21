import { areaOfPieces, hatchLines, lengthOfPieces, type Point } from '../../geometry/index.ts';
import { flatRings, ringPieces, type OutlineRing } from '../ringed.ts';

/** What of an area says where it lies, and how it is hatched. */
interface Outlined {
  rings: OutlineRing[];
}
type Filled = Outlined & {
  fill:
    | { kind: 'none' }
    | { kind: 'solid' }
    | { kind: 'hatch'; angle: number; spacing: number; crossed: boolean };
};

/** Area (square millimetres; holes taken off) and the length of all outlines (millimetres). */
export function areaFigures(e: Outlined): { area: number; perimeter: number } {
  const rings = e.rings.map(ringPieces);
  const [outer = 0, ...holes] = rings.map((r) => Math.abs(areaOfPieces(r)));
  return {
    area: outer - holes.reduce((a, b) => a + b, 0),
    perimeter: rings.reduce((sum, r) => sum + lengthOfPieces(r), 0),
  };
}

/** The outlines as polygons, for filling. */
export const areaRings = flatRings;

/** The lines of an area's hatch; none where it has none. */
export function areaHatch(e: Filled): [Point, Point][] {
  if (e.fill.kind !== 'hatch') return [];
  const { angle, spacing, crossed } = e.fill,
    rings = areaRings(e);
  return [
    ...hatchLines(rings, angle, spacing),
    ...(crossed ? hatchLines(rings, angle + Math.PI / 2, spacing) : []),
  ];
}

/** Where its figure stands: the middle of the widest stretch of a level line through it. */
export function areaLabelPlace(e: Outlined): [number, number] {
  const rings = areaRings(e);
  const ys = rings[0].map((p) => p[1]),
    low = Math.min(...ys),
    high = Math.max(...ys);
  let best: [number, number] = [rings[0][0][0], rings[0][0][1]],
    widest = -1;
  // Lines near the middle come first, so that of two that are alike the middle one stays.
  for (const share of [0.5, 0.42, 0.58, 0.34, 0.66, 0.25, 0.75]) {
    const y = low + share * (high - low),
      cuts: number[] = [];
    for (const ring of rings) {
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const [x0, y0] = ring[j],
          [x1, y1] = ring[i];
        if (y0 > y !== y1 > y) cuts.push(x0 + ((y - y0) / (y1 - y0)) * (x1 - x0));
      }
    }
    cuts.sort((a, b) => a - b);
    for (let i = 0; i + 1 < cuts.length; i += 2) {
      const width = cuts[i + 1] - cuts[i];
      if (width > widest * 1.05) [widest, best] = [width, [(cuts[i] + cuts[i + 1]) / 2, y]];
    }
  }
  return best;
}
