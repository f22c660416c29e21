import polygonClipping from 'polygon-clipping';
import { ringArea, type Point, type Polygon, type Ring } from '@calque/core/geometry';

/** Area of what of some polygons is missing in others, square millimetres. */
export function missing(of: readonly Polygon[], within: readonly Polygon[]): number {
  const plain = (polygons: readonly Polygon[]) =>
    polygons.map((rings) => rings.map((r: Ring) => [...r, r[0]].map(([x, y]): [number, number] => [x, y])));
  const left = polygonClipping.difference(plain(of), plain(within));
  return left.reduce(
    (sum, rings) =>
      sum +
      rings.reduce(
        (own, ring, i) =>
          own + (i === 0 ? 1 : -1) * Math.abs(ringArea(ring.slice(0, -1) as unknown as Point[])),
        0,
      ),
    0,
  );
}
