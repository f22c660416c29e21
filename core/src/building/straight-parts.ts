import type { Point, Ring } from '../geometry/index.ts';
import type { Wall, WallOpening } from '../model/index.ts';
import { halfOfRing } from './opened.ts';
import {
  arcOf,
  bandOf,
  faceOffsets,
  openingsOf,
  plainBody,
  pointAt,
  type WallArc,
  type WallBand,
} from './wall-geometry.ts';

/**
 * A bent wall is made of straight ones end on end: each opening of it is one of them, and what stands between has so many that it strays
 * by little more than STRAYS, with their joints moved outward so little that what they cover of the plan is exactly what the ring between two
 * circles covers. Everything that knows straight walls knows bent ones by these.
 */
export interface StraightPart {
  /** With an id of its own, the openings that take it up, and those alone. */
  wall: Wall;
  band: WallBand;
  /** Where it lies along the drawn line of the whole, millimetres. */
  from: number;
  to: number;
  /** What of a ring lies within the part: between the lines on which it is mitred to its neighbours. */
  slice(ring: Ring): Ring;
}

/** Farther from its arc a part does not stray, millimetres; and how many there are at most. */
const STRAYS = 0.5,
  MOST_PARTS = 360;
/** No part turns by more, radians. */
const WIDEST = Math.PI / 36;
/** Stretches shorter than this, millimetres, are none. */
const SHORTEST = 1e-3;

const known = new WeakMap<Wall, readonly StraightPart[]>();

/** The straight parts of a wall, in order along it: itself where it is straight. */
export function straightParts(wall: Wall): readonly StraightPart[] {
  const made = known.get(wall);
  if (made) return made;
  const arc = arcOf(wall),
    parts = arc ? bentParts(wall, arc) : [whole(wall)];
  known.set(wall, parts);
  return parts;
}

/** Walls as straight ones. */
export const asStraight = (walls: readonly Wall[]): Wall[] =>
  walls.some((w) => w.curve) ? walls.flatMap((w) => straightParts(w).map((p) => p.wall)) : [...walls];

const MARK = '~';
/** The wall of which a straight part is. */
export const wholeOf = (id: string): string => {
  const at = id.indexOf(MARK);
  return at < 0 ? id : id.slice(0, at);
};

const whole = (wall: Wall): StraightPart => {
  const band = bandOf(wall);
  return { wall, band, from: 0, to: band.length, slice: (ring) => ring };
};

interface Stretch {
  from: number;
  to: number;
  open: WallOpening[];
}

function bentParts(wall: Wall, arc: WallArc): StraightPart[] {
  const nodes: { at: number; place: Point }[] = [{ at: 0, place: wall.from }],
    open: WallOpening[][] = [];
  for (const stretch of stretchesOf(wall, arc)) {
    const places = stretch.open.length > 0 ? [] : betweenEnds(wall, arc, stretch);
    for (const place of places) {
      nodes.push({ at: arc.along(place), place });
      open.push([]);
    }
    nodes.push({ at: stretch.to, place: stretch.to === arc.length ? wall.to : arc.at(stretch.to) });
    open.push(stretch.open);
  }
  const walls = open.map((openings, i): Wall => {
    const [from, to] = [pair(nodes[i].place), pair(nodes[i + 1].place)];
    return {
      ...wall,
      id: `${wall.id}${MARK}${i}`,
      curve: null,
      from,
      to,
      runsThrough: null,
      openings:
        openings.length === 0
          ? null
          : openings.map((o) =>
              arc.along(o.from) <= arc.along(o.to) ? { ...o, from, to } : { ...o, from: to, to: from },
            ),
    };
  });
  const bands = walls.map(bandOf);
  return walls.map((part, i) => ({
    wall: part,
    band: bands[i],
    from: nodes[i].at,
    to: nodes[i + 1].at,
    slice: slicer(bands, i, arc),
  }));
}

const pair = (p: Point): [number, number] => [p[0], p[1]];

/** The arc in stretches: what openings take up, and what lies between. */
function stretchesOf(wall: Wall, arc: WallArc): Stretch[] {
  const openings = openingsOf(wall),
    bounds = [0, ...openings.flatMap((o) => [o.from, o.to]), arc.length].sort((a, b) => a - b);
  return bounds.slice(1).flatMap((to, i): Stretch[] => {
    const from = bounds[i];
    return to - from < SHORTEST && bounds.length > 2
      ? []
      : [
          {
            from,
            to,
            open: openings
              .filter((o) => o.from <= from + SHORTEST && o.to >= to - SHORTEST)
              .map((o) => o.opening),
          },
        ];
  });
}

/**
 * The joints between the ends of a stretch. The line midway between its faces leaves its ends along the tangent, so that they are square to
 * the arc, and is as long as the arc midway: the area, its length by the thickness, is then that of the ring between two circles. The
 * drawn line runs beside it.
 */
function betweenEnds(wall: Wall, arc: WallArc, { from, to }: Stretch): Point[] {
  const { left, right } = faceOffsets(wall.thickness, wall.alignment, wall.inset ?? 0),
    [inward, outward] = arc.isLeft ? [left, right] : [right, left],
    // From the drawn line outward to the middle.
    off = (outward - inward) / 2,
    radius = arc.radius + off,
    turn = (to - from) / arc.radius,
    step = Math.min(WIDEST, 2 * Math.acos(Math.max(0.5, 1 - STRAYS / radius))),
    between = Math.min(MOST_PARTS, Math.max(1, Math.ceil(turn / step)));
  /** With ends that go so far along the tangent: how long all of it is, and the angles of its chords. */
  const runOf = (ends: number) => {
    const first = Math.atan(ends / radius),
      chord = (turn - 2 * first) / between;
    return { first, chord, length: 2 * ends + between * 2 * Math.hypot(radius, ends) * Math.sin(chord / 2) };
  };
  // With none it is too short, with ends as long as half a chord about the circle too long.
  let [low, high] = [0, radius * Math.tan(turn / (between + 1) / 2)];
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2;
    if (runOf(middle).length < radius * turn) low = middle;
    else high = middle;
  }
  const { first, chord } = runOf(high),
    far = Math.hypot(radius, high);
  return Array.from({ length: between + 1 }, (_, i) => {
    const isEnd = i === 0 || i === between,
      angle = first + i * chord,
      // Half of the turn at the joint, and the way halfway between the two parts that meet there.
      bend = isEnd ? (first + chord / 2) / 2 : chord / 2,
      way = i === 0 ? bend : i === between ? turn - bend : angle,
      at = arc.at(from + angle * arc.radius, far - arc.radius),
      [near, out] = [arc.at(from + way * arc.radius, 0), arc.at(from + way * arc.radius, 1)],
      beside = -off / Math.cos(bend);
    return [at[0] + beside * (out[0] - near[0]), at[1] + beside * (out[1] - near[1])];
  });
}
/** As often a range is halved: to the last figure. */
const HALVINGS = 60;

/** Cuts rings to a part, between the lines on which it meets its neighbours, on its own side of the arc's middle. */
function slicer(bands: readonly WallBand[], i: number, arc: WallArc): (ring: Ring) => Ring {
  const own = bands[i],
    // The line that halves the angle of two parts is square to the way halfway between theirs.
    joint = (a: WallBand, b: WallBand): WallBand => {
      const [x, y] = [a.ux + b.ux, a.uy + b.uy],
        length = Math.hypot(x, y);
      return { ...b, ux: x / length, uy: y / length };
    },
    before = i > 0 ? joint(bands[i - 1], own) : null,
    after = i + 1 < bands.length ? joint(own, bands[i + 1]) : null,
    inner = arc.isLeft ? own.left : own.right,
    across: WallBand = { ...own, ux: -own.uy, uy: own.ux },
    towards = (arc.radius + inner) / 2;
  return (ring) => {
    let part = arc.isLeft ? halfOfRing(ring, across, towards, -1) : halfOfRing(ring, across, -towards, 1);
    if (before) part = halfOfRing(part, before, 0, 1);
    if (after) part = halfOfRing(part, after, 0, -1);
    return part;
  };
}

/** How far beside where it touches a bent wall is taken as straight, millimetres. */
const TOUCHES = 2000;

/** The band of a wall; of a bent one a straight band that touches it where it is nearest to a point. */
export function bandNear(wall: Wall, p: Point): WallBand {
  const arc = arcOf(wall);
  if (!arc) return bandOf(wall);
  const along = arc.along(p),
    at = arc.at(along),
    [x, y] = arc.at(along, 1),
    // Forward along it: outward turned by a quarter.
    way = arc.isLeft ? [at[1] - y, x - at[0]] : [y - at[1], at[0] - x],
    place = (by: number): [number, number] => [at[0] + by * way[0], at[1] + by * way[1]];
  return bandOf({
    ...wall,
    curve: null,
    from: place(-Math.min(TOUCHES, Math.max(along, SHORTEST))),
    to: place(Math.min(TOUCHES, Math.max(arc.length - along, SHORTEST))),
  });
}

/** The outline of a wall before any join: of a bent one that of its parts. */
export function plainOutline(wall: Wall): Ring {
  const parts = straightParts(wall);
  if (parts.length === 1) return plainBody(parts[0].band);
  return [
    ...parts.flatMap(({ band }) => [pointAt(band, 0, -band.right), pointAt(band, band.length, -band.right)]),
    ...[...parts]
      .reverse()
      .flatMap(({ band }) => [pointAt(band, band.length, band.left), pointAt(band, 0, band.left)]),
  ];
}
