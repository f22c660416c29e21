import Flatbush from 'flatbush';
import {
  asStraight,
  bandOf,
  throughOpeningsOf,
  openLineAt,
  pointAt,
  regionOfRoom,
  roomsWithin,
  wholeOf,
  type Enclosed,
  type OpenLine,
  type Room,
  type WallBand,
} from '../building/index.ts';
import {
  boxOfPoints,
  grownBox,
  insideIntervals,
  makeRegion,
  regionContains,
  ringArea,
  type Box,
  type Point,
  type Region,
} from '../geometry/index.ts';
import { footOf, ofType, topOf, wallTypeName, type Model, type Storey, type Wall } from '../model/index.ts';

export const WINDS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'] as const;
export type Wind = (typeof WINDS)[number];

/** A side of a room: areas in square metres. */
export interface BoundaryRow {
  /** 'open': an open boundary, where no wall stands. Floors and ceilings are told by the takeoff of all storeys together: see levelSides. */
  side: 'wall' | 'open' | 'floor' | 'ceiling';
  /** The wind to which it looks from inside; null where no north arrow says where north is. */
  facing: Wind | null;
  /** 'outside', 'ground', the name of the room beyond, or null where another wall stands behind or nobody has traced what lies there. */
  beyond: string | null;
  /** Is the room beyond one that is not heated? */
  unheated: boolean;
  /** Length of the inside face, millimetres; 0 of a floor. */ length: number;
  gross: number;
  /** Without its openings. */ net: number;
  glazing: number;
  doors: number;
  wall: string | null;
  /** What the wall is of, as the takeoff of walls says it. */ wallType: string | null;
  /** Thickness of the wall, millimetres. */ thickness: number | null;
}

/** A room that walls enclose: lengths in millimetres, areas in square metres, the volume in cubic metres. */
export interface SpaceRow {
  /** Of the room that was made of it; null where none was. */ id: string | null;
  /** Of the room, or by the words that stand in it in the trace; else "Room 1", "Room 2" … of its storey. */ name: string;
  number: string;
  /** Is it said not to be heated? */ unheated: boolean;
  /** What the sheet prints there, square metres. */ printed: number | null;
  storey: string;
  /** By the inside faces, without walls that stand free in it; and with them. */ area: number;
  gross: number;
  perimeter: number;
  height: number;
  volume: number;
  assumed: ('height' | 'name')[];
  boundaries: BoundaryRow[];
}

/** A side of a room whose wall is not named yet. */
type WallSide = Omit<BoundaryRow, 'wallType'>;

/** So far beyond a face it is looked what is there, millimetres. */
const BEYOND = 1;
/** Less of a face than this, millimetres, is none. */
const LEAST_FACE = 1e-3;

/** An inside face of a room: its wall, and where along it. */
interface Face {
  room: number;
  wall: Wall;
  band: WallBand;
  /** Is it the left face of its wall? */ left: boolean;
  from: number;
  to: number;
}

/** The rooms of a storey, each as it lies and as it counts. */
export function countedRooms(
  model: Model,
  storey: Storey,
  given: readonly Wall[],
): { room: Room; row: SpaceRow }[] {
  // A bent wall looks to many winds: each straight part of it is a face by itself.
  const walls = asStraight(given),
    open = ofType(model, 'openBoundary').filter((b) => b.planeId === storey.id),
    enclosed = roomsWithin(walls, open);
  if (enclosed.rooms.length === 0) return [];
  const regions = enclosed.rooms.map(regionOfRoom),
    names = namesOf(model, storey, regions),
    standing = standingOf(enclosed, walls),
    faces = facesOf(enclosed, regions, standing),
    seen = { north: northOf(model), ceiling: storey.height };
  return enclosed.rooms.map((room, i) => {
    const area = room.area / 1e6;
    const row: SpaceRow = {
      id: names[i].id,
      name: names[i].name,
      number: names[i].number,
      unheated: names[i].unheated,
      printed: names[i].printed,
      storey: storey.name,
      area,
      gross: Math.abs(ringArea(room.outline)) / 1e6,
      perimeter: room.perimeter,
      height: storey.height,
      volume: (area * storey.height) / 1e3,
      assumed: [
        ...(storey.heightAssumed ? (['height'] as const) : []),
        ...(names[i].said ? [] : (['name'] as const)),
      ],
      boundaries: [
        ...openSides(i, { rooms: enclosed.rooms, regions, names, open, standing }, storey),
        ...ofWholeWalls(
          faces
            .filter((f) => f.room === i)
            .flatMap((f) => {
              const wallType = wallTypeName(model, f.wall);
              return boundariesOf(f, faces, names, standing, seen).map((b) => ({ ...b, wallType }));
            }),
        ),
      ],
    };
    return { room, row };
  });
}

/** What a room is called, and what is said of it. */
interface RoomName {
  id: string | null;
  name: string;
  number: string;
  unheated: boolean;
  printed: number | null;
  said: boolean;
}

/** What stands written in a room: a text of the trace, or the name of an area that lies there. */
function namesOf(model: Model, storey: Storey, regions: readonly Region[]): RoomName[] {
  const words: { at: Point; words: string }[] = [
    ...ofType(model, 'text')
      .filter((t) => t.planeId === storey.id)
      .map((t) => ({ at: t.at, words: t.text.split('\n')[0].trim() })),
    ...ofType(model, 'area')
      .filter((a) => a.planeId === storey.id)
      .map((a) => ({ at: middleOf(a.rings[0].points), words: a.name.trim() })),
  ].filter((w) => w.words !== '');
  const spaces = ofType(model, 'space').filter((s) => s.planeId === storey.id);
  return regions.map((region, i) => {
    const space = spaces.find(({ at }) => regionContains(region, at[0], at[1]));
    if (space)
      return {
        id: space.id,
        name: space.name || space.number || `Room ${i + 1}`,
        number: space.number,
        unheated: space.unheated ?? false,
        printed: space.printed === null ? null : space.printed / 1e6,
        said: space.name !== '' || space.number !== '',
      };
    const found = words.find(({ at }) => regionContains(region, at[0], at[1]));
    return {
      id: null,
      name: found?.words ?? `Room ${i + 1}`,
      number: '',
      unheated: false,
      printed: null,
      said: found !== undefined,
    };
  });
}

function middleOf(points: readonly Point[]): Point {
  const [x0, y0, x1, y1] = boxOfPoints(points);
  return [(x0 + x1) / 2, (y0 + y1) / 2];
}

/** A wall as it stands, without its openings. */
interface StandingWall {
  wall: Wall;
  band: WallBand;
  region: Region;
}
/** All walls of a storey, found by place. */
interface Standing {
  near(box: Box): StandingWall[];
}

function standingOf({ bodies }: Enclosed, walls: readonly Wall[]): Standing {
  const list = walls.flatMap((wall): StandingWall[] => {
    const body = bodies.get(wall.id);
    return body ? [{ wall, band: bandOf(wall), region: makeRegion([body], 'nonzero') }] : [];
  });
  if (list.length === 0) return { near: () => [] };
  const index = new Flatbush(list.length);
  for (const { region } of list) index.add(...boxOfPoints(region.rings[0]));
  index.finish();
  return { near: ([x0, y0, x1, y1]) => index.search(x0, y0, x1, y1).map((i) => list[i]) };
}

/** The edges of the rooms' outlines, each with the wall whose face it is. */
function facesOf({ rooms }: Enclosed, regions: readonly Region[], standing: Standing): Face[] {
  const faces: Face[] = [];
  rooms.forEach(({ outline, islands }: Room, room) => {
    for (const ring of [outline, ...islands])
      ring.forEach((p, i) => {
        const q = ring[(i + 1) % ring.length],
          length = Math.hypot(q[0] - p[0], q[1] - p[1]);
        if (length < LEAST_FACE) return;
        const middle: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2],
          out: Point = [(q[1] - p[1]) / length, -(q[0] - p[0]) / length];
        // The room lies to the left of its outline, and of its islands, which run the other way.
        const sign = regionContains(regions[room], middle[0] + BEYOND * out[0], middle[1] + BEYOND * out[1])
            ? -1
            : 1,
          behind: Point = [middle[0] + sign * BEYOND * out[0], middle[1] + sign * BEYOND * out[1]];
        const own = standing
          .near([behind[0], behind[1], behind[0], behind[1]])
          .filter(({ region }) => regionContains(region, behind[0], behind[1]))
          .sort((a, b) => across(a.band, p, q) - across(b.band, p, q))[0] as StandingWall | undefined;
        if (!own) return;
        const { wall, band } = own,
          along = [p, q].map((e) => (e[0] - band.from[0]) * band.ux + (e[1] - band.from[1]) * band.uy),
          off = -(middle[0] - band.from[0]) * band.uy + (middle[1] - band.from[1]) * band.ux;
        faces.push({
          room,
          wall,
          band,
          left: off > (band.left - band.right) / 2,
          from: Math.min(...along),
          to: Math.max(...along),
        });
      });
  });
  return faces;
}

/** What the rooms of a storey are looked up in. */
interface Around {
  rooms: readonly Room[];
  regions: readonly Region[];
  names: readonly RoomName[];
  open: readonly OpenLine[];
  standing: Standing;
}

/** The open boundaries of a room, each with the room beyond it. One that runs along a wall is none. */
function openSides(
  at: number,
  { rooms, regions, names, open, standing }: Around,
  { height }: Storey,
): BoundaryRow[] {
  if (open.length === 0) return [];
  return [rooms[at].outline, ...rooms[at].islands].flatMap((ring) =>
    ring.flatMap((p, i): BoundaryRow[] => {
      const q = ring[(i + 1) % ring.length],
        length = Math.hypot(q[0] - p[0], q[1] - p[1]),
        middle: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
      if (length < LEAST_FACE || !openLineAt(middle, open)) return [];
      const step = BEYOND / length,
        sides = [1, -1].map((s): Point => [
          middle[0] + s * step * (q[1] - p[1]),
          middle[1] - s * step * (q[0] - p[0]),
        ]),
        beyond = regions.findIndex((r, j) => j !== at && sides.some(([x, y]) => regionContains(r, x, y))),
        isWall = sides.some(([x, y]) =>
          standing.near([x, y, x, y]).some(({ region }) => regionContains(region, x, y)),
        ),
        area = (length * height) / 1e6;
      if (beyond < 0 && isWall) return [];
      return [
        {
          side: 'open',
          facing: null,
          beyond: names[beyond]?.name ?? null,
          unheated: names[beyond]?.unheated ?? false,
          length,
          gross: area,
          net: area,
          glazing: 0,
          doors: 0,
          wall: null,
          wallType: null,
          thickness: null,
        },
      ];
    }),
  );
}

/** How far an edge is from running along a wall: the sine. */
const across = (b: WallBand, p: Point, q: Point): number =>
  Math.abs((q[0] - p[0]) * b.uy - (q[1] - p[1]) * b.ux);

type Span = readonly [from: number, to: number];

/** What is left of a span when others are taken away. */
function without(span: Span, others: readonly Span[]): Span[] {
  let left: Span[] = [span];
  for (const [a, b] of others)
    left = left.flatMap(([from, to]): Span[] =>
      b <= from || a >= to
        ? [[from, to]]
        : [[from, Math.min(to, a)] as Span, [Math.max(from, b), to] as Span].filter(
            ([f, t]) => t - f > LEAST_FACE,
          ),
    );
  return left;
}

const overlap = (a: Span, b: Span): Span => [Math.max(a[0], b[0]), Math.min(a[1], b[1])];
const isSpan = ([from, to]: Span): boolean => to - from > LEAST_FACE;

/** What lies beyond a stretch. */
interface Beyond {
  name: string | null;
  unheated: boolean;
}

/** The direction of north, and how high the rooms are, millimetres. */
interface Seen {
  north: number | null;
  ceiling: number;
}

/** A face parted by what lies beyond its wall: rooms, other walls, outside. */
function boundariesOf(
  face: Face,
  faces: readonly Face[],
  names: readonly RoomName[],
  standing: Standing,
  seen: Seen,
): WallSide[] {
  const own: Span = [face.from, face.to],
    rows: [Span, Beyond][] = [];
  const opposite = faces.filter((f) => f.wall === face.wall && f.left !== face.left);
  for (const other of opposite) {
    const shared = overlap(own, [other.from, other.to]);
    if (isSpan(shared))
      rows.push([shared, { name: names[other.room].name, unheated: names[other.room].unheated }]);
  }
  const covered = wallsBehind(face, standing);
  for (const rest of without(
    own,
    rows.map(([span]) => span),
  )) {
    const open = without(rest, covered);
    rows.push(...open.map((span): [Span, Beyond] => [span, { name: 'outside', unheated: false }]));
    rows.push(...without(rest, open).map((span): [Span, Beyond] => [span, { name: null, unheated: false }]));
  }
  return rows.map(([span, beyond]) => rowOf(face, span, beyond, seen));
}

/** Sides of parts of one bent wall that look to one wind and have the same beyond them, as one side of that wall. */
function ofWholeWalls<S extends WallSide>(sides: readonly S[]): S[] {
  const out: S[] = [];
  for (const side of sides) {
    const wall = side.wall === null ? null : wholeOf(side.wall),
      i =
        wall === side.wall
          ? -1
          : out.findIndex((o) => o.wall === wall && o.facing === side.facing && o.beyond === side.beyond);
    if (i < 0) out.push({ ...side, wall });
    else
      out[i] = {
        ...out[i],
        length: out[i].length + side.length,
        gross: out[i].gross + side.gross,
        net: out[i].net + side.net,
        glazing: out[i].glazing + side.glazing,
        doors: out[i].doors + side.doors,
      };
  }
  return out;
}

/** Where other walls stand right behind a face's wall, along it. */
function wallsBehind({ wall, band, left, from, to }: Face, standing: Standing): Span[] {
  const side = left ? -band.right - BEYOND : band.left + BEYOND,
    p = pointAt(band, from, side),
    q = pointAt(band, to, side);
  return standing.near(grownBox(boxOfPoints([p, q]), BEYOND)).flatMap((other) => {
    if (wholeOf(other.wall.id) === wholeOf(wall.id)) return [];
    return insideIntervals(other.region, p[0], p[1], q[0], q[1], 0).map(([a, b]): Span => [
      from + a * (to - from),
      from + b * (to - from),
    ]);
  });
}

function rowOf(
  { wall, band, left }: Face,
  [from, to]: Span,
  beyond: Beyond,
  { north, ceiling }: Seen,
): WallSide {
  // What of a wall that stands between levels lies between the floor and the ceiling of its room.
  const low = Math.max(0, footOf(wall)),
    high = Math.max(low, wall.top || wall.base ? Math.min(topOf(wall), ceiling) : wall.height),
    gross = ((to - from) * (high - low)) / 1e6;
  let glazing = 0,
    doors = 0,
    gaps = 0;
  for (const { opening, from: a, to: b } of throughOpeningsOf(wall)) {
    const width = Math.max(0, Math.min(b, to) - Math.max(a, from)),
      height = Math.max(0, Math.min(opening.head, high) - Math.max(opening.sill, low)),
      area = (width * height) / 1e6;
    if (opening.kind === 'window') glazing += area;
    else if (opening.kind === 'door') doors += area;
    else gaps += area;
  }
  return {
    side: 'wall',
    facing: north === null ? null : windOf(band, left, north),
    beyond: beyond.name,
    unheated: beyond.unheated,
    length: to - from,
    gross,
    net: gross - glazing - doors - gaps,
    glazing,
    doors,
    wall: wall.id,
    thickness: wall.thickness,
  };
}

/** The direction of north on the plans, radians; null where no north arrow has been put. */
export const northOf = (model: Model): number | null =>
  ofType(model, 'symbol').find((s) => s.mark === 'north')?.angle ?? null;

/** The wind to which one looks from a room through a wall of which one sees the left or right face. */
function windOf(band: WallBand, left: boolean, north: number): Wind {
  // From the left face one looks to the right, and the other way round.
  const [x, y] = left ? [band.uy, -band.ux] : [-band.uy, band.ux],
    clockwise = north - Math.atan2(y, x);
  return WINDS[((Math.round(clockwise / (Math.PI / 4)) % 8) + 8) % 8];
}
