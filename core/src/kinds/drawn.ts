/** A pair of coordinates as it is stored; which space it is in stands at the field. */
export type Pair = [number, number];
/** A place or a direction of the model as it is stored: millimetres, z up. */
export type Triple = [number, number, number];

/** Where an element came from: the underlay it was traced on, if any, and how its measures were found. */
export interface Source {
  underlayId: string | null;
  /** Name of the sheet, kept when it was taken off the table. */
  sheet?: string | null;
  ends: 'snapped' | 'free' | 'typed' | 'mixed';
  thickness: 'typed' | 'measured';
  /** One of its ends at least was snapped to a line read from the ink of a scan, not to the author's own. */
  ink?: boolean;
}

/** What every traced element has. Its layer decides how it is drawn; without one it is drawn by its kind. */
export interface Drawn {
  id: string;
  /** What it is drawn on: a storey, or a plane of its own. */
  planeId: string;
  source: Source;
  layerId?: string | null;
  /** Dealt with: out of the way while tracing goes on, if so wished; delivered like everything else. */
  done?: boolean | null;
  /** When it is built, in the words of whoever builds it; absent: nobody has said. */
  phase?: string | null;
  /** The group (assembly) that is being edited and that it is part of. */
  part?: string | null;
}

/** Dashes of a line and the gaps between, in turn, plane millimetres; absent: as its layer has it. */
export interface Dashed {
  dash?: number[] | null;
}

export type LineType = 'solid' | 'dashed' | 'dotted' | 'dash-dot';

/** Points nearer than this, millimetres, are one. */
const ONE_POINT = 1e-6;
export const isOnePoint = (p: readonly [number, number], q: readonly [number, number]): boolean =>
  Math.hypot(p[0] - q[0], p[1] - q[1]) <= ONE_POINT;
export const pairOf = (p: readonly [number, number]): Pair => [p[0], p[1]];
export const shifted = (p: readonly [number, number], [dx, dy]: readonly [number, number]): Pair => [
  p[0] + dx,
  p[1] + dy,
];

/** Is there something left of every stretch between these points? */
export function stretchesLeft(points: readonly (readonly [number, number])[], closed: boolean): boolean {
  return points.every((p, i) =>
    i + 1 < points.length ? !isOnePoint(p, points[i + 1]) : !closed || !isOnePoint(p, points[0]),
  );
}

/** Bulges of a path as a mirror shows them. */
export const mirroredBulges = (bulges: readonly number[], mirrored: boolean): number[] =>
  mirrored ? bulges.map((b) => (b === 0 ? 0 : -b)) : [...bulges];

/** Dashes as large as the rest. */
export const scaledDashes = ({ dash }: Dashed, scale: number): Dashed =>
  dash && scale !== 1 ? { dash: dash.map((n) => n * scale) } : {};

/** Points with those moved that a region holds; the very points where it holds none. */
export function heldPoints<P extends Pair>(
  points: readonly P[],
  holds: (p: readonly [number, number]) => boolean,
  by: readonly [number, number],
): { points: Pair[]; moved: boolean } {
  const held = points.map((p) => (holds(p) ? shifted(p, by) : p));
  return { points: held, moved: held.some((p, i) => p !== points[i]) };
}
