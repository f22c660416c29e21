import type { Point } from './spaces.ts';

/** A point or a direction in the model: millimetres, z up. */
export type ModelPoint = readonly [number, number, number];

/** Where a plane lies in the model: its origin, and the directions of its x and y, each of length one and square to the other. */
export interface Frame {
  origin: ModelPoint;
  across: ModelPoint;
  up: ModelPoint;
}

export const dot3 = (a: ModelPoint, b: ModelPoint): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross3 = (a: ModelPoint, b: ModelPoint): ModelPoint => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const minus3 = (a: ModelPoint, b: ModelPoint): ModelPoint => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** The direction that a plane is looked at from: towards whoever looks at it square on. */
export const facing = ({ across, up }: Frame): ModelPoint => cross3(across, up);

/** A place of a plane in the model: the one way from a plane into the model. */
export const worldFromPlane = ({ origin, across, up }: Frame, [x, y]: Point): ModelPoint => [
  origin[0] + across[0] * x + up[0] * y,
  origin[1] + across[1] * x + up[1] * y,
  origin[2] + across[2] * x + up[2] * y,
];

/** Where a place of the model falls on a plane, looked at square on, and how far before the plane it lies (behind it: below 0), millimetres. */
export function planeFromWorld(frame: Frame, place: ModelPoint): { point: Point; before: number } {
  const from = minus3(place, frame.origin);
  return { point: [dot3(from, frame.across), dot3(from, frame.up)], before: dot3(from, facing(frame)) };
}

/** A ray that runs along a plane more nearly than this (sine of the angle) meets it nowhere that could be meant. */
const ALONG = 1e-9;

/** Where a ray meets a plane; null where it runs along it or away from it. */
export function rayToPlane(frame: Frame, from: ModelPoint, direction: ModelPoint): Point | null {
  const normal = facing(frame),
    towards = dot3(direction, normal),
    length = Math.hypot(...direction);
  if (Math.abs(towards) <= ALONG * length) return null;
  const along = dot3(minus3(frame.origin, from), normal) / towards;
  if (along < 0) return null;
  const place: ModelPoint = [
    from[0] + direction[0] * along,
    from[1] + direction[1] * along,
    from[2] + direction[2] * along,
  ];
  return planeFromWorld(frame, place).point;
}

/** Is this a frame: two directions of length one, square to one another? */
export function isFrame({ across, up }: Pick<Frame, 'across' | 'up'>): boolean {
  const off = Math.max(
    Math.abs(dot3(across, across) - 1),
    Math.abs(dot3(up, up) - 1),
    Math.abs(dot3(across, up)),
  );
  return off < 1e-9;
}
