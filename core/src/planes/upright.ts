import type { Point } from '../geometry/index.ts';
import type { Model, PlaneRole, WorkPlane } from '../model/index.ts';
import { ofType, storeysOf } from '../model/index.ts';

/** Two points of a plan nearer than this, millimetres, are no direction. */
const NEAREST = 1;

/** How an upright plane is made: two points of a plan, seen from their right-hand side, that is, with the first at the left. */
export interface Upright {
  from: Point;
  to: Point;
  /** Where it begins above the model's zero, and how high it is shown, millimetres. */
  level?: number;
  height: number;
  name: string;
  role: PlaneRole;
}

/** An upright plane through two points of a plan; null where they are one point. Its y is the height in the model. */
export function uprightPlane(
  id: string,
  { from, to, level = 0, height, name, role }: Upright,
): WorkPlane | null {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]],
    width = Math.hypot(dx, dy);
  if (!(width >= NEAREST)) return null;
  return {
    type: 'plane',
    id,
    name,
    role,
    origin: [from[0], from[1], level],
    across: [dx / width, dy / width, 0],
    up: [0, 0, 1],
    width,
    height,
  };
}

/** The plane looked at from its other side: what was left is right, and it covers what it covered. */
export const turnedRound = (plane: WorkPlane): Pick<WorkPlane, 'origin' | 'across'> => ({
  origin: [
    plane.origin[0] + plane.across[0] * plane.width,
    plane.origin[1] + plane.across[1] * plane.width,
    plane.origin[2] + plane.across[2] * plane.width,
  ],
  across: [-plane.across[0] || 0, -plane.across[1] || 0, -plane.across[2] || 0],
});

/** How high the building is, from the model's zero to the top of its highest storey: what an upright plane shows at first, millimetres. */
export function buildingHeight(model: Model): number {
  const tops = storeysOf(model).map((s) => s.elevation + s.height);
  return Math.max(...tops, 1000);
}

/** A name that no plane has yet: "Elevation 2", "Section B". */
export function freePlaneName(model: Model, role: PlaneRole): string {
  const taken = new Set([...ofType(model, 'plane'), ...storeysOf(model)].map((p) => p.name));
  const word = role[0].toUpperCase() + role.slice(1);
  for (let n = 0; ; n++) {
    const name = `${word} ${role === 'section' ? letters(n) : n + 1}`;
    if (!taken.has(name)) return name;
  }
}

/** A, B … Z, AA, AB … */
const letters = (n: number): string =>
  (n < 26 ? '' : letters(Math.floor(n / 26) - 1)) + String.fromCharCode(65 + (n % 26));
