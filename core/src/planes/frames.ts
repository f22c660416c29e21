import { facing, worldFromPlane, type Frame, type ModelPoint, type Point } from '../geometry/index.ts';
import type { PlaneEntity } from '../model/index.ts';

/** Where a plane lies in the model. A storey's floor lies level, its x and y those of the model. */
export const frameOf = (plane: PlaneEntity): Frame =>
  plane.type === 'storey'
    ? { origin: [0, 0, plane.elevation], across: [1, 0, 0], up: [0, 1, 0] }
    : { origin: plane.origin, across: plane.across, up: plane.up };

/** What a plane is for, in a word. */
export const roleWord = (plane: PlaneEntity): string => (plane.type === 'storey' ? 'storey' : plane.role);

/** The corners of what is shown of a plane, in the model; a storey's rectangle is that of what lies on it, given on its plane. */
export function cornersOf(
  plane: PlaneEntity,
  shown: readonly [number, number, number, number],
): ModelPoint[] {
  const [x0, y0, x1, y1] = plane.type === 'storey' ? shown : [0, 0, plane.width, plane.height];
  const frame = frameOf(plane);
  const corners: Point[] = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
  return corners.map((p) => worldFromPlane(frame, p));
}

/** Does a plane stand upright, so that plans show it as a line? */
export const isUpright = (plane: PlaneEntity): boolean =>
  plane.type === 'plane' && Math.abs(facing(plane)[2]) < 1e-9;

/** A plane that is upright as plans show it: from its left end to its right one, seen by whoever looks at it square on. */
export function lineInPlan(plane: PlaneEntity): [Point, Point] | null {
  if (plane.type !== 'plane' || !isUpright(plane)) return null;
  const [x, y] = plane.origin,
    [dx, dy] = plane.across;
  return [
    [x, y],
    [x + dx * plane.width, y + dy * plane.width],
  ];
}

/** How far a plane reaches towards whoever looks at it, and away, millimetres. A section begins at its plane where nobody has said otherwise; what else has no end goes on for ever. */
export function depthOf(plane: PlaneEntity): { before: number; behind: number } {
  if (plane.type === 'storey') return { before: Infinity, behind: Infinity };
  const { depth, role } = plane;
  return {
    before: depth?.before ?? (role === 'section' ? 0 : Infinity),
    behind: depth?.behind ?? Infinity,
  };
}
