import { applyTransform, determinant, type Transform } from '../geometry/index.ts';
import type { Line, Traced, Wall, WallAlignment } from './entities.ts';

const MIRRORED: Record<WallAlignment, WallAlignment> = { centre: 'centre', left: 'right', right: 'left' };

/**
 * A traced element where a map of the plane takes it. A wall that is mirrored shows its other side to the left, so its
 * faces stay where the mirror puts them; its thickness and height stay as they are, scaled or not.
 */
export function movedBy<T extends Traced>(element: T, map: Transform): T {
  const ends = { from: applyTransform(map, element.from), to: applyTransform(map, element.to) };
  if (element.type === 'wall') return { ...(element as Wall), ...ends, alignment: determinant(map) < 0 ? MIRRORED[(element as Wall).alignment] : (element as Wall).alignment } as T;
  return { ...(element as Line), ...ends } as T;
}
