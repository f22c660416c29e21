import type { Point, Ring } from '../geometry/index.ts';
import type { Wall } from '../model/index.ts';

/** A wall's drawn line with the distances of its faces to the left and right of it, millimetres. */
export interface WallBand { id: string; from: Point; to: Point; left: number; right: number; length: number; ux: number; uy: number }

/** Face distances of an alignment: the drawn line lies on the named face, or midway. */
export function faceOffsets(thickness: number, alignment: Wall['alignment']): { left: number; right: number } {
  if (alignment === 'left') return { left: 0, right: thickness };
  if (alignment === 'right') return { left: thickness, right: 0 };
  return { left: thickness / 2, right: thickness / 2 };
}

export function bandOf(wall: Pick<Wall, 'id' | 'from' | 'to' | 'thickness' | 'alignment'>): WallBand {
  const dx = wall.to[0] - wall.from[0], dy = wall.to[1] - wall.from[1];
  const length = Math.hypot(dx, dy);
  return { id: wall.id, from: wall.from, to: wall.to, ...faceOffsets(wall.thickness, wall.alignment), length, ux: dx / length, uy: dy / length };
}

/** A point at a distance along the band and to the left of its line. */
export const pointAt = (b: WallBand, along: number, left: number): Point =>
  [b.from[0] + b.ux * along - b.uy * left, b.from[1] + b.uy * along + b.ux * left];

/** The band's plain rectangle, before any join. */
export const plainBody = (b: WallBand): Ring =>
  [pointAt(b, 0, -b.right), pointAt(b, b.length, -b.right), pointAt(b, b.length, b.left), pointAt(b, 0, b.left)];
