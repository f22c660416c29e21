import type { Point, Ring } from '../geometry/index.ts';
import type { Wall, WallOpening } from '../model/index.ts';

/** A wall's drawn line with the distances of its faces to the left and right of it, millimetres. */
export interface WallBand {
  id: string;
  from: Point;
  to: Point;
  left: number;
  right: number;
  length: number;
  ux: number;
  uy: number;
}

/** Face distances of an alignment: the drawn line lies on the named face or so deep behind it, or midway. */
export function faceOffsets(
  thickness: number,
  alignment: Wall['alignment'],
  inset = 0,
): { left: number; right: number } {
  if (alignment === 'left') return { left: inset, right: thickness - inset };
  if (alignment === 'right') return { left: thickness - inset, right: inset };
  return { left: thickness / 2, right: thickness / 2 };
}

/** What of a wall says where its faces lie. */
export type WallLine = Pick<Wall, 'id' | 'from' | 'to' | 'thickness' | 'alignment' | 'inset'>;

export function bandOf(wall: WallLine): WallBand {
  const dx = wall.to[0] - wall.from[0],
    dy = wall.to[1] - wall.from[1];
  const length = Math.hypot(dx, dy);
  return {
    id: wall.id,
    from: wall.from,
    to: wall.to,
    ...faceOffsets(wall.thickness, wall.alignment, wall.inset ?? 0),
    length,
    ux: dx / length,
    uy: dy / length,
  };
}

/** A point at a distance along the band and to the left of its line. */
export const pointAt = (b: WallBand, along: number, left: number): Point => [
  b.from[0] + b.ux * along - b.uy * left,
  b.from[1] + b.uy * along + b.ux * left,
];

/** The band's plain rectangle, before any join. */
export const plainBody = (b: WallBand): Ring => [
  pointAt(b, 0, -b.right),
  pointAt(b, b.length, -b.right),
  pointAt(b, b.length, b.left),
  pointAt(b, 0, b.left),
];

/** Openings this far from a wall's line, as a share of its thickness, are not in it any more. */
const BESIDE = 1;
/** An opening of which less is left, millimetres, is none. */
const LEAST_OPENING = 1e-6;

/** An opening with the distances of its edges from its wall's first end, in order, cut to the wall's length. */
export interface OpeningInWall {
  opening: WallOpening;
  from: number;
  to: number;
}

/** The openings that a wall still has, the first along it first: one beside its line or beyond its ends is none. */
export function openingsOf(wall: WallLine & Pick<Wall, 'openings'>): OpeningInWall[] {
  if (!wall.openings || wall.openings.length === 0) return [];
  const b = bandOf(wall),
    along = (p: Point) => (p[0] - b.from[0]) * b.ux + (p[1] - b.from[1]) * b.uy,
    off = (p: Point) => Math.abs((p[1] - b.from[1]) * b.ux - (p[0] - b.from[0]) * b.uy);
  const limit = (t: number) => Math.min(b.length, Math.max(0, t));
  return wall.openings
    .filter((o) => [o.from, o.to].every((p) => off(p) <= BESIDE * wall.thickness))
    .map((opening) => {
      const [from, to] = [limit(along(opening.from)), limit(along(opening.to))];
      return { opening, from: Math.min(from, to), to: Math.max(from, to) };
    })
    .filter((o) => o.to - o.from > LEAST_OPENING)
    .sort((p, q) => p.from - q.from);
}

/** The stretches of a wall that openings take up, those that overlap as one. */
export function openStretches(openings: readonly OpeningInWall[]): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  for (const { from, to } of openings) {
    const last = out.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else out.push({ from, to });
  }
  return out;
}
