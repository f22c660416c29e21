import { ringArea, type Ring } from '../polygons.ts';
import type { Point } from '../spaces.ts';
import { unionOf } from '../union.ts';
import {
  at,
  besideSide,
  distanceOf,
  twiceArea,
  velocityOf,
  type Front,
  type MovingSide,
} from './wavefront.ts';

/** Points nearer than this are one while fronts move, millimetres. */
const ONE = 1e-4;
/** An upright side does not move inwards. */
const UPRIGHT = Math.PI / 2;

/** What a roof is over an outline: for each side the part of the plan that rises from it, and how high all of it comes. */
export interface RoofPlan {
  /** By the number of the side; an upright one (a gable) has none. */
  faces: { side: number; ring: Ring }[];
  /** Height of the highest ridge above the outline, millimetres. */
  ridge: number;
}

/**
 * The weighted straight skeleton of an outline: each side moves inwards as its plane rises (pitch in radians above 0; a quarter turn
 * stands for a gable), and what it sweeps is its face. Fronts are moved from one event to the next: a side that is used up, a corner that
 * meets another side. Null where the planes never close over the outline.
 * Aichholzer, Aurenhammer et al., "A novel type of skeleton for polygons" (1995), is the source of the notion.
 */
export function roofOver(outline: Ring, pitches: readonly number[]): RoofPlan | null {
  const turn = ringArea(outline) > 0;
  const ring = turn ? outline : [...outline].reverse(),
    n = ring.length,
    // Side i runs from corner i to the next; turned round, the sides come from behind.
    sideOf = (i: number) => (turn ? i : (2 * n - 2 - i) % n);
  const sides = ring.map((p, i): MovingSide => {
    const q = ring[(i + 1) % n],
      length = distanceOf(p, q),
      [nx, ny] = [-(q[1] - p[1]) / length, (q[0] - p[0]) / length],
      pitch = pitches[sideOf(i)];
    return {
      nx,
      ny,
      offset: nx * p[0] + ny * p[1],
      speed: pitch >= UPRIGHT - 1e-9 ? 0 : 1 / Math.tan(pitch),
    };
  });
  const swept = sides.map((): Ring[] => []);
  let fronts: Front[] = [ring.map((p, side) => ({ p, side }))],
    height = 0;
  for (let guard = 0; fronts.length > 0; guard++) {
    if (guard > 20 * n + 50) return null;
    const step = nextEvent(fronts, sides);
    if (step === null) return null;
    fronts = fronts.flatMap((front) => {
      const moved = advanced(front, sides, step);
      if (!moved) return [];
      front.forEach((corner, i) => {
        const next = at(front, i + 1);
        swept[corner.side].push([corner.p, next.p, at(moved, i + 1).p, moved[i].p]);
      });
      return settled(moved);
    });
    height += step;
  }
  const faces = swept.flatMap((parts, i) =>
    unionOf(parts.map(counterClockwise).filter((r) => Math.abs(ringArea(r)) > ONE)).map(([outer]) => ({
      side: sideOf(i),
      ring: outer,
    })),
  );
  return faces.length === 0 ? null : { faces, ridge: height };
}

const counterClockwise = (ring: Ring): Ring => (ringArea(ring) > 0 ? ring : [...ring].reverse());

/** How much higher the next thing happens; null where nothing ever does. */
function nextEvent(fronts: readonly Front[], sides: readonly MovingSide[]): number | null {
  let best = Infinity;
  for (const front of fronts) {
    const speeds = front.map((c, i) => velocityOf(sides[at(front, i - 1).side], sides[c.side]));
    if (speeds.some((v) => v === null)) return null;
    const v = speeds as Point[];
    front.forEach((corner, i) => {
      const j = (i + 1) % front.length,
        next = front[j],
        side = sides[corner.side],
        [ux, uy] = [side.ny, -side.nx],
        length = (next.p[0] - corner.p[0]) * ux + (next.p[1] - corner.p[1]) * uy,
        change = (v[j][0] - v[i][0]) * ux + (v[j][1] - v[i][1]) * uy;
      if (change < -1e-12) best = Math.min(best, Math.max(0, length) / -change);
      // A corner against each side that it is no end of.
      for (let k = 0; k < front.length; k++) {
        if (k === i || (k + 1) % front.length === i) continue;
        best = Math.min(best, meets(front, v, i, k, sides[front[k].side]));
      }
    });
  }
  return Number.isFinite(best) ? best : null;
}

/** How much higher a corner meets a side, if it does between its ends. */
function meets(front: Front, v: readonly Point[], i: number, k: number, side: MovingSide): number {
  const { p } = front[i],
    a = front[k].p,
    inside = (p[0] - a[0]) * side.nx + (p[1] - a[1]) * side.ny,
    change = v[i][0] * side.nx + v[i][1] * side.ny - side.speed;
  if (inside < ONE || change > -1e-12) return Infinity;
  const t = inside / -change,
    l = (k + 1) % front.length,
    b = front[l].p;
  const then = (q: Point, w: Point): Point => [q[0] + w[0] * t, q[1] + w[1] * t];
  const [hit, from, to] = [then(p, v[i]), then(a, v[k]), then(b, v[l])],
    [ux, uy] = [side.ny, -side.nx],
    along = (hit[0] - from[0]) * ux + (hit[1] - from[1]) * uy,
    length = (to[0] - from[0]) * ux + (to[1] - from[1]) * uy;
  return along >= -ONE && along <= length + ONE ? t : Infinity;
}

/** A front so much higher. */
function advanced(front: Front, sides: readonly MovingSide[], by: number): Front | null {
  const moved: Front = [];
  for (let i = 0; i < front.length; i++) {
    const v = velocityOf(sides[at(front, i - 1).side], sides[front[i].side]);
    if (!v) return null;
    moved.push({ side: front[i].side, p: [front[i].p[0] + v[0] * by, front[i].p[1] + v[1] * by] });
  }
  return moved;
}

/** What is left of a front after an event: without sides that are used up, parted where a corner lies on another side. */
function settled(front: Front): Front[] {
  const left = withoutShort(front);
  if (left.length < 3 || twiceArea(left) < ONE * perimeterOf(left)) return [];
  for (let i = 0; i < left.length; i++) {
    for (let k = 0; k < left.length; k++) {
      if (k === i || (k + 1) % left.length === i) continue;
      const { along, length, inside } = besideSide(left, k, left[i].p);
      if (Math.abs(inside) > ONE || along < -ONE || along > length + ONE) continue;
      const { p } = left[i],
        // From the corner round to the side that it lies on, and from there on round to the corner.
        one = circular(left, i, k),
        other = [{ p, side: left[k].side }, ...circular(left, k + 1, i - 1)];
      return [...settled(one), ...settled(other)];
    }
  }
  return [left];
}

/** Corners from one to another, round past the first if need be. */
function circular(front: Front, from: number, to: number): Front {
  const n = front.length,
    many = (((to - from) % n) + n) % n;
  return Array.from({ length: many + 1 }, (_, i) => at(front, from + i));
}

function withoutShort(front: Front): Front {
  let left = front;
  for (;;) {
    const i = left.findIndex((c, at_) => left.length > 1 && distanceOf(c.p, at(left, at_ + 1).p) < ONE);
    if (i < 0) return left;
    left = left.filter((_, k) => k !== i);
  }
}

const perimeterOf = (front: Front): number =>
  front.reduce((sum, c, i) => sum + distanceOf(c.p, at(front, i + 1).p), 0);
