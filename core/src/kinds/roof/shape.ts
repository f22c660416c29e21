import {
  crossesItself,
  heightAt,
  offsetOutline,
  ringArea,
  roofOver,
  segmentPiece,
  steepness,
  type Height,
  type Piece,
  type Point,
  type Ring,
} from '../../geometry/index.ts';
import type { Pair } from '../drawn.ts';

/** A pitch of a quarter turn stands for a gable: the side goes straight up. */
export const GABLE = Math.PI / 2;

/** An outline with what rises from its sides: see Roof. */
export interface Covering {
  points: Pair[];
  pitches: number[];
  eaves: number;
  overhang: number;
}

/** A plane of a roof: its outline in plan, and its upper surface above the level of the storey. */
export interface RoofFace {
  /** The side from which it rises. */
  side: number;
  ring: Ring;
  surface: Height;
  /** Radians. */
  pitch: number;
}

export interface RoofShape {
  /** The outer edge, beyond the outline by the overhang. */
  edge: Ring;
  faces: RoofFace[];
  /** The highest place of its upper surface, above the level of the storey. */
  ridge: number;
}

/** Least and greatest pitch of a plane, radians: a tenth of a degree, and just short of upright. */
const LEAST = Math.PI / 1800,
  MOST = (Math.PI / 180) * 89;

const known = new WeakMap<Covering, RoofShape | { why: string }>();

/** What a roof is: its planes, or why its pitches make none. */
export function roofShape(roof: Covering): RoofShape | { why: string } {
  let shape = known.get(roof);
  if (!shape) known.set(roof, (shape = found(roof)));
  return shape;
}

function found({ points, pitches, eaves, overhang }: Covering): RoofShape | { why: string } {
  if (crossesItself(points)) return { why: 'Its outline crosses itself.' };
  const edge = overhang === 0 ? points : offsetOutline(points, () => overhang);
  if (crossesItself(edge) || ringArea(edge) * ringArea(points) <= 0)
    return { why: 'Its overhang runs into itself: make it smaller.' };
  if (pitches.every((p) => p === 0)) {
    const face: RoofFace = { side: 0, ring: edge, surface: eaves, pitch: 0 };
    return { edge, faces: [face], ridge: eaves };
  }
  const wrong = pitches.findIndex((p) => p !== GABLE && !(p >= LEAST && p <= MOST));
  if (wrong >= 0)
    return { why: `Side ${wrong + 1} has no pitch between 0.1 and 89 degrees, and is no gable.` };
  const plan = roofOver(edge, pitches);
  if (!plan)
    return { why: 'Its planes never meet: give another side a pitch, or sides in one line the same.' };
  const inwards = ringArea(edge) > 0 ? 1 : -1;
  const faces = plan.faces.map(({ side, ring }): RoofFace => {
    const p = edge[side],
      q = edge[(side + 1) % edge.length],
      k = (inwards * Math.tan(pitches[side])) / Math.hypot(q[0] - p[0], q[1] - p[1]);
    return {
      side,
      ring,
      pitch: pitches[side],
      surface: { at: p, z: eaves, dx: -(q[1] - p[1]) * k, dy: (q[0] - p[0]) * k },
    };
  });
  return { edge, faces, ridge: eaves + plan.ridge };
}

/** Area of a roof's planes as they slope, square millimetres. */
export const slopedArea = ({ ring, surface }: RoofFace): number =>
  Math.abs(ringArea(ring)) * steepness(surface);

/** How high a roof's upper surface lies over a place; null beside it. */
export const surfaceAt = (face: RoofFace, p: Point): number => heightAt(face.surface, p);

const GRID = 1e-3;
const name = (p: Point, q: Point) =>
  [p, q]
    .map(([x, y]) => `${Math.round(x / GRID)},${Math.round(y / GRID)}`)
    .sort()
    .join(' ');

/** What is drawn of a roof in plan: its edge, and each hip, ridge and valley once. Of one that its pitches do not close: its outline. */
export function roofLines(roof: Covering): Piece[] {
  const shape = roofShape(roof),
    seen = new Set<string>(),
    lines: Piece[] = [];
  const add = (ring: Ring) =>
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length],
        key = name(p, q);
      if (seen.has(key)) return;
      seen.add(key);
      lines.push(segmentPiece(p, q));
    });
  if ('why' in shape) {
    add(roof.points);
    return lines;
  }
  add(shape.edge);
  for (const { ring } of shape.faces) add(ring);
  return lines;
}
