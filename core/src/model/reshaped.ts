import type { Point } from '../geometry/index.ts';
import { kindOf, shifted, type Traced } from '../kinds/index.ts';
import { edgesOf, gripsOf } from './shape-of.ts';

/** The element with one grip (see gripsOf) at another place; null where that would leave nothing of it. */
export const withGrip = (e: Traced, grip: number, to: Point): Traced | null =>
  kindOf(e).withGrip(e, grip, to);

/** The element with one of its stretches moved by a vector, its neighbours drawn along. */
export function withEdge(e: Traced, edge: number, by: Point): Traced | null {
  const { grips } = edgesOf(e)[edge];
  let moved: Traced | null = e;
  for (const g of grips) moved = moved && withGrip(moved, g, shifted(gripsOf(e)[g], by));
  return moved;
}

/**
 * An element with those of its points moved by a vector that a region holds, the others where they were: lines, paths, areas and
 * curves are stretched; an arc follows with its ends, and goes as a whole with both, a circle with its centre, a text with where it
 * begins, a dimension with the points that rest on nothing. The same element where nothing of it moves; null where nothing would be
 * left of it.
 */
export const stretched = (e: Traced, holds: (p: Point) => boolean, by: Point): Traced | null =>
  kindOf(e).stretched(e, holds, by);
