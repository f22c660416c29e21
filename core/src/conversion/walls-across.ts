import { crossLines, type Box, type Piece, type Point } from '../geometry/index.ts';
import { facePairs, type FacePair } from './faces.ts';

type Segment = Extract<Piece, { kind: 'segment' }>;

/** So far beyond a face (millimetres) its wall is asked for, and so far may two readings of one wall differ. */
const BEYOND = 10,
  SAME = 3;
/** What is thinner is glazing more often than a wall, what is thicker furniture or a room, millimetres. */
const THINNEST_CROSSED = 70,
  THICKEST_CROSSED = 650;
/** Lines run the same way within this sine. */
const SAME_WAY = 2e-3;
/** A wall is longer than this many times its thickness. */
const LEAST_SLENDER = 1.2;

/**
 * The walls that a stroke from one point to another goes right across, in its order: those that both their faces tell alike as the
 * likeliest, each seen from the other. `find`: the solid lines that may touch a box. Millimetres of the plane.
 */
export function wallsAcross(from: Point, to: Point, find: (box: Box) => Iterable<Piece>): FacePair[] {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length === 0) return [];
  const ux = (to[0] - from[0]) / length,
    uy = (to[1] - from[1]) / length;
  const at = (d: number): Point => [from[0] + d * ux, from[1] + d * uy];
  const faces: { face: Segment; d: number }[] = [];
  for (const p of find([
    Math.min(from[0], to[0]),
    Math.min(from[1], to[1]),
    Math.max(from[0], to[0]),
    Math.max(from[1], to[1]),
  ])) {
    if (p.kind !== 'segment') continue;
    const hit = crossLines([...from, ...to], [...p.from, ...p.to]);
    if (hit && hit.t >= 0 && hit.t <= 1 && hit.u >= 0 && hit.u <= 1)
      faces.push({ face: p, d: hit.t * length });
  }
  faces.sort((a, b) => a.d - b.d);
  const found: FacePair[] = [];
  for (const { face, d } of faces) {
    const seconds = faces.filter(
      (o) =>
        o.d > d + BEYOND &&
        isAlong(face, o.face) &&
        offFrom(face, at(o.d)) >= THINNEST_CROSSED &&
        offFrom(face, at(o.d)) <= THICKEST_CROSSED,
    );
    const wall = seconds.length > 0 && facePairs(face, find, at(d + BEYOND))[0];
    const second = wall && seconds.find((o) => Math.abs(offFrom(face, at(o.d)) - wall.thickness) <= SAME);
    if (
      !second ||
      Math.hypot(wall.to[0] - wall.from[0], wall.to[1] - wall.from[1]) < LEAST_SLENDER * wall.thickness ||
      isByItself(wall, find)
    )
      continue;
    const back = facePairs(second.face, find, at(second.d - BEYOND))[0];
    if (back && isSame(wall, back) && !found.some((f) => isSame(f, wall))) found.push(wall);
  }
  return found;
}

function isAlong(a: Segment, b: Segment): boolean {
  const [ax, ay, bx, by] = [
    a.to[0] - a.from[0],
    a.to[1] - a.from[1],
    b.to[0] - b.from[0],
    b.to[1] - b.from[1],
  ];
  return Math.abs(ax * by - ay * bx) <= SAME_WAY * Math.hypot(ax, ay) * Math.hypot(bx, by);
}

/** Is it closed at both ends from face to face and no farther? A wall meets others; a bath, a counter or a bed is a rectangle. */
function isByItself({ from, to, thickness }: FacePair, find: (box: Box) => Iterable<Piece>): boolean {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    ux = (to[0] - from[0]) / length,
    uy = (to[1] - from[1]) / length;
  return [from, to].every((end) => {
    for (const p of find([end[0] - SAME, end[1] - SAME, end[0] + SAME, end[1] + SAME])) {
      if (p.kind !== 'segment') continue;
      const along = (q: Point) => (q[0] - end[0]) * ux + (q[1] - end[1]) * uy,
        across = (q: Point) => (q[1] - end[1]) * ux - (q[0] - end[0]) * uy;
      if (Math.abs(along(p.from)) > SAME || Math.abs(along(p.to)) > SAME) continue;
      const [low, high] = [across(p.from), across(p.to)].sort((a, b) => a - b);
      if (Math.abs(low + thickness / 2) <= SAME && Math.abs(high - thickness / 2) <= SAME) return true;
    }
    return false;
  });
}

/** How far a point lies from a line, however long that is. */
function offFrom({ from, to }: Segment, p: Point): number {
  const dx = to[0] - from[0],
    dy = to[1] - from[1];
  return Math.abs((p[0] - from[0]) * dy - (p[1] - from[1]) * dx) / Math.hypot(dx, dy);
}

function isSame(a: FacePair, b: FacePair): boolean {
  const near = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]) <= SAME;
  return (
    Math.abs(a.thickness - b.thickness) <= SAME &&
    ((near(a.from, b.from) && near(a.to, b.to)) || (near(a.from, b.to) && near(a.to, b.from)))
  );
}
