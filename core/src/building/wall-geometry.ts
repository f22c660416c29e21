import type { Point, Ring } from '../geometry/index.ts';
import { USUAL_DEPTH, wallPiece, type Wall, type WallOpening } from '../model/index.ts';

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
export type WallLine = Pick<Wall, 'id' | 'from' | 'to' | 'thickness' | 'alignment' | 'inset' | 'curve'>;

/** The drawn line of a bent wall. */
export interface WallArc {
  radius: number;
  length: number;
  centre: Point;
  /** Does its centre lie to its left? */
  isLeft: boolean;
  /** A place at a distance along it, and so far outward of it. */
  at(along: number, outward?: number): Point;
  /** How far along it a point lies, between its ends. */
  along(p: Point): number;
}

/** The arc of a bent wall; null for a straight one. */
export function arcOf(wall: Pick<Wall, 'from' | 'to' | 'curve'>): WallArc | null {
  const piece = wallPiece(wall);
  if (piece.kind !== 'arc') return null;
  const { cx, cy, r: radius, start, end } = piece.arc,
    turn = end - start,
    isLeft = !piece.clockwise,
    angleAt = (along: number) => (isLeft ? start + along / radius : end - along / radius);
  return {
    radius,
    length: radius * turn,
    centre: [cx, cy],
    isLeft,
    at: (along, outward = 0) => {
      const angle = angleAt(along);
      return [cx + (radius + outward) * Math.cos(angle), cy + (radius + outward) * Math.sin(angle)];
    },
    along: ([x, y]) => {
      const angle = Math.atan2(y - cy, x - cx),
        gone = isLeft ? angle - start : end - angle,
        // Beyond an end it is as far before or behind the arc as it is nearer to.
        within = gone - 2 * Math.PI * Math.floor((gone + Math.PI - turn / 2) / (2 * Math.PI));
      return radius * Math.min(turn, Math.max(0, within));
    },
  };
}

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
    arc = arcOf(wall),
    length = arc ? arc.length : b.length,
    along = (p: Point) => (arc ? arc.along(p) : (p[0] - b.from[0]) * b.ux + (p[1] - b.from[1]) * b.uy),
    off = (p: Point) =>
      Math.abs(
        arc
          ? Math.hypot(p[0] - arc.centre[0], p[1] - arc.centre[1]) - arc.radius
          : (p[1] - b.from[1]) * b.ux - (p[0] - b.from[0]) * b.uy,
      );
  const limit = (t: number) => Math.min(length, Math.max(0, t));
  return wall.openings
    .filter((o) => [o.from, o.to].every((p) => off(p) <= BESIDE * wall.thickness))
    .map((opening) => {
      const [from, to] = [limit(along(opening.from)), limit(along(opening.to))];
      return { opening, from: Math.min(from, to), to: Math.max(from, to) };
    })
    .filter((o) => o.to - o.from > LEAST_OPENING)
    .sort((p, q) => p.from - q.from);
}

/** Does an opening go through its wall? */
const goesThrough =
  ({ thickness }: Pick<Wall, 'thickness'>) =>
  ({ opening }: OpeningInWall): boolean =>
    opening.kind !== 'niche' || depthOf(opening) >= thickness;

const depthOf = (niche: WallOpening): number => niche.depth ?? USUAL_DEPTH;

/** The openings of a wall through which one sees. */
export const throughOpeningsOf = (wall: WallLine & Pick<Wall, 'openings'>): OpeningInWall[] =>
  openingsOf(wall).filter(goesThrough(wall));

/** What a niche takes of its wall in plan: between two distances along it and two to the left of its line, one of them that of a face. */
export interface NicheInWall extends OpeningInWall {
  right: number;
  left: number;
  /** Is it open to the left face? */ toLeft: boolean;
}

/** The niches of a straight wall: none is deeper than the wall is thick. */
export const nichesOf = (wall: WallLine & Pick<Wall, 'openings'>): NicheInWall[] => {
  const niches = openingsOf(wall).filter((o) => !goesThrough(wall)(o));
  if (niches.length === 0) return [];
  const band = bandOf(wall);
  return niches.map((o) => nicheIn(band, o));
};

/** Where a niche lies in the band of its wall. */
export function nicheIn(band: WallBand, o: OpeningInWall): NicheInWall {
  const depth = Math.min(depthOf(o.opening), band.left + band.right);
  return waysOf(band, o.opening).left
    ? { ...o, toLeft: true, left: band.left, right: band.left - depth }
    : { ...o, toLeft: false, left: depth - band.right, right: -band.right };
}

/** The side to which an opening is open and the edge at which it is hung, seen along its wall, whichever way the opening itself was drawn. */
export function waysOf(
  band: WallBand,
  o: Pick<WallOpening, 'from' | 'to' | 'hung' | 'opens'>,
): { left: boolean; hungAtFrom: boolean } {
  const along = (p: readonly [number, number]) =>
    (p[0] - band.from[0]) * band.ux + (p[1] - band.from[1]) * band.uy;
  const forward = along(o.from) <= along(o.to);
  return { left: (o.opens === 'left') === forward, hungAtFrom: (o.hung === 'from') === forward };
}

/** The stretches of a wall that openings take up, those that overlap as one. */
export function openStretches(
  openings: readonly { from: number; to: number }[],
): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  for (const { from, to } of openings) {
    const last = out.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else out.push({ from, to });
  }
  return out;
}

/** How wide an opening of a wall is: straight from edge to edge, also in a bent wall. */
export function widthOfOpening(wall: WallLine, { from, to }: Pick<OpeningInWall, 'from' | 'to'>): number {
  const arc = arcOf(wall);
  return arc ? 2 * arc.radius * Math.sin((to - from) / (2 * arc.radius)) : to - from;
}

/** The stretch of an arc about a place whose ends lie so far apart, straight; moved along where it would go beyond an end. */
export function stretchOn(arc: WallArc, middle: Point, width: number): [number, number] {
  const half = arc.radius * Math.asin(Math.min(1, width / (2 * arc.radius))),
    at = Math.min(arc.length - half, Math.max(half, arc.along(middle)));
  return [at - half, at + half];
}
