import type { Part, WayOfMaking } from '../../model/index.ts';

/** What a workshop can do; each can be set. */
export interface Limits {
  /** Radius of the smallest cutter that reaches inner corners, millimetres. */
  toolRadius: number;
  /** A cutter reaches so many of its diameters deep. */
  toolDepth: number;
  /** Thinnest wall, millimetres. */
  wall: number;
  /** A drill reaches so many of its diameters deep. */
  drillDepth: number;
  /** Between a hole and the next face so much of its diameter stays. */
  holeEdge: number;
  /** Smallest hole, millimetres. */
  hole: number;
  /** Smallest hole of cut sheet, as a share of its thickness. */
  cutHole: number;
  /** Thickest sheet that is cut or bent, millimetres. */
  sheet: number;
  /** Smallest inner radius of a bend, as a share of the thickness. */
  bendRadius: number;
  /** Finest tolerance, millimetres. */
  tolerance: number;
}
export type LimitName = keyof Limits;

/** Usual limits, told by many shops alike; not of any standard. */
export const USUAL_LIMITS: Readonly<Record<WayOfMaking, Limits>> = (() => {
  const milling: Limits = {
    toolRadius: 1.5,
    toolDepth: 4,
    wall: 1,
    drillDepth: 10,
    holeEdge: 0.5,
    hole: 1,
    cutHole: 0.5,
    sheet: 20,
    bendRadius: 1,
    tolerance: 0.02,
  };
  return {
    milling,
    drilling: { ...milling, tolerance: 0.1 },
    turning: { ...milling, tolerance: 0.02, toolRadius: 0.4 },
    cutting: { ...milling, tolerance: 0.2, wall: 1.5 },
    bending: { ...milling, tolerance: 0.3, sheet: 8 },
  };
})();

export const LIMIT_WORDS: Readonly<Record<LimitName, string>> = {
  toolRadius: 'Smallest cutter, radius',
  toolDepth: 'Cutter reaches, x its diameter',
  wall: 'Thinnest wall',
  drillDepth: 'Drill reaches, x its diameter',
  holeEdge: 'Beside a hole stays, x its diameter',
  hole: 'Smallest hole',
  cutHole: 'Smallest cut hole, x the thickness',
  sheet: 'Thickest sheet',
  bendRadius: 'Smallest bend, x the thickness',
  tolerance: 'Finest tolerance',
};

/** Limits of a part: the usual ones of its way of making, with those that a person has set. */
export function limitsOf({ way, limits }: Pick<Part, 'way' | 'limits'>): Limits {
  const usual = USUAL_LIMITS[way],
    out = { ...usual };
  for (const name of Object.keys(usual) as LimitName[]) {
    const own = limits?.[name];
    if (own !== undefined) out[name] = own;
  }
  return out;
}
