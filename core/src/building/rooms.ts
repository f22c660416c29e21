import {
  boxOfPoints,
  cleanRing,
  distanceToSegment,
  footOnLine,
  makeRegion,
  meetingOf,
  regionContains,
  ringArea,
  ringTurning,
  ringLength,
  unionOf,
  type Point,
  type Polygon,
  type Region,
  type Ring,
} from '../geometry/index.ts';
import type { OpenBoundary, Wall } from '../model/index.ts';
import { cutWalls, wedgesOf } from './joins.ts';

/** What is enclosed and smaller than this, square millimetres, is a slit between walls and no room. */
const LEAST_ROOM = 0.1e6;

/** A room: what walls enclose, by their inside faces; closed across openings. Plane millimetres. */
export interface Room {
  /** Counter-clockwise. */
  outline: Ring;
  /** Walls that stand free in it. */
  islands: Ring[];
  /** Square millimetres, without its islands. */
  area: number;
  /** Along its outline and round its islands. */
  perimeter: number;
}

export interface Enclosed {
  rooms: Room[];
  /** The outermost outlines of all that stands there, by the outside faces. */
  outside: Ring[];
  /** Plan area of the walls together, square millimetres. */
  wallArea: number;
  /** Bodies of the walls as they are without openings. */
  bodies: ReadonlyMap<string, Ring>;
}

/** A line at which a room ends without a wall. */
export type OpenLine = Pick<OpenBoundary, 'from' | 'to'>;

/** Half the width of the slit by which an open boundary parts rooms, and how far it reaches beyond its ends into the walls, millimetres. */
const SLIT = 1e-3,
  REACH = 1;

function slitOf({ from, to }: OpenLine): Ring {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  const at = (p: Point, along: number, left: number): Point => [
    p[0] + ux * along - uy * left,
    p[1] + uy * along + ux * left,
  ];
  return [at(from, -REACH, -SLIT), at(to, REACH, -SLIT), at(to, REACH, SLIT), at(from, -REACH, SLIT)];
}

/** A ring whose corners at slits lie on their very lines: what does not part anything leaves no trace in it. */
function withoutSlits(ring: Ring, open: readonly OpenLine[]): Ring {
  const settled = ring.map((p): Point => {
    const lines = open.filter(({ from, to }) => isAlong(p, from, to, 2 * SLIT)),
      far = (q: Point) => Math.hypot(q[0] - p[0], q[1] - p[1]);
    // Where several meet it is the corner of those two that cross nearest to it.
    const corners = lines
      .flatMap((one, i) => lines.slice(i + 1).map((other) => crossingOf(one, other)))
      .filter((q): q is Point => q !== null && far(q) <= REACH);
    const places = corners.length > 0 ? corners : lines.map(({ from, to }) => footOnLine(p, from, to));
    return places.reduce<Point | null>((best, q) => (best && far(best) <= far(q) ? best : q), null) ?? p;
  });
  return cleanRing(settled);
}

/** Where two lines meet; null where they run alike. */
const crossingOf = (a: OpenLine, b: OpenLine): Point | null =>
  meetingOf(a.from, minus(a.to, a.from), b.from, minus(b.to, b.from));

const minus = (p: Point, q: Point): Point => [p[0] - q[0], p[1] - q[1]];

function isAlong(p: Point, from: Point, to: Point, within: number): boolean {
  const foot = footOnLine(p, from, to);
  return (
    Math.hypot(p[0] - foot[0], p[1] - foot[1]) <= within &&
    distanceToSegment(...p, ...from, ...to) <= REACH + within
  );
}

/** The open boundary along which a point lies; null for none. */
export const openLineAt = (p: Point, open: readonly OpenLine[]): OpenLine | null =>
  open.find(({ from, to }) => isAlong(p, from, to, 10 * SLIT)) ?? null;

/**
 * The rooms that walls enclose, parted where open boundaries are drawn from wall to wall. Walls that do not close enclose none: what can
 * be found still is.
 */
export function roomsWithin(walls: readonly Wall[], open: readonly OpenLine[] = []): Enclosed {
  const whole = cutWalls(walls.map((w) => (w.openings ? { ...w, openings: null } : w))),
    polygons = unionOf([...whole.bodies.values(), ...wedgesOf(whole), ...open.map(slitOf)]);
  const settled = (ring: Ring) => (open.length > 0 ? withoutSlits(ring, open) : ring);
  const holes = polygons
      .flatMap(([, ...rings]) => rings.map((r) => ringTurning(r, true)))
      .map(settled)
      .filter((ring) => ring.length > 2),
    regions = holes.map((r) => makeRegion([r], 'nonzero'));
  const islands = holes.map((): Ring[] => []),
    outside: Ring[] = [];
  const around = polygons.map(([outer]) => settled(outer)).filter((ring) => ring.length > 2);
  for (const outer of around) {
    const at = smallestAround(outer[0], holes, regions);
    if (at < 0) outside.push(ringTurning(outer, true));
    else islands[at].push(ringTurning(outer, false));
  }
  const rooms = holes
    .map((outline, i): Room => ({
      outline,
      islands: islands[i],
      area: ringArea(outline) + islands[i].reduce((sum, r) => sum + ringArea(r), 0),
      perimeter: [outline, ...islands[i]].reduce((sum, r) => sum + ringLength(r), 0),
    }))
    .filter((r) => r.area >= LEAST_ROOM);
  return { rooms, outside, wallArea: areaOf(polygons), bodies: whole.bodies };
}

/** Number of the smallest ring that holds a point; -1 for none. */
function smallestAround(p: Point, rings: readonly Ring[], regions: readonly Region[]): number {
  let best = -1;
  regions.forEach((region, i) => {
    if (!regionContains(region, p[0], p[1])) return;
    if (best < 0 || Math.abs(ringArea(rings[i])) < Math.abs(ringArea(rings[best]))) best = i;
  });
  return best;
}

/** Area of polygons with their holes, square millimetres. */
export const areaOf = (polygons: readonly Polygon[]): number =>
  polygons.reduce(
    (sum, rings) =>
      sum + rings.reduce((own, ring, i) => own + (i === 0 ? 1 : -1) * Math.abs(ringArea(ring)), 0),
    0,
  );

/** The room as a region, its islands left out. */
export const regionOfRoom = ({ outline, islands }: Pick<Room, 'outline' | 'islands'>): Region =>
  makeRegion([outline, ...islands], 'evenodd');

/** A box around a room. */
export const boxOfRoom = ({ outline }: Room) => boxOfPoints(outline);

/** The room in which a point lies; the smallest, where rooms lie within one another. */
export function roomAt<R extends Room>(rooms: readonly R[], [x, y]: Point): R | null {
  let best: R | null = null;
  for (const room of rooms)
    if ((best === null || room.area < best.area) && regionContains(regionOfRoom(room), x, y)) best = room;
  return best;
}

/** A place within a room where its words may stand: its middle, or else the middle of the widest stretch across it. */
export function placeInRoom(room: Pick<Room, 'outline' | 'islands'>): Point {
  const [x0, y0, x1, y1] = boxOfPoints(room.outline),
    middle: Point = [(x0 + x1) / 2, (y0 + y1) / 2],
    region = regionOfRoom(room);
  if (regionContains(region, ...middle)) return middle;
  let best: { at: Point; width: number } | null = null;
  for (let k = 1; k < ROWS; k++) {
    const y = y0 + ((y1 - y0) * k) / ROWS;
    let from: number | null = null;
    for (let i = 0; i <= COLUMNS; i++) {
      const x = x0 + ((x1 - x0) * i) / COLUMNS,
        inside = i < COLUMNS && regionContains(region, x, y);
      if (inside) from ??= x;
      else if (from !== null) {
        if (!best || x - from > best.width) best = { at: [(from + x) / 2, y], width: x - from };
        from = null;
      }
    }
  }
  return best?.at ?? middle;
}
const ROWS = 24,
  COLUMNS = 64;
