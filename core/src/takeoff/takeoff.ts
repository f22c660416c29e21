import { bandOf, cutWalls, openingsOf, solidParts, type WallBand } from '../building/index.ts';
import { ringArea, type Ring } from '../geometry/index.ts';
import { ownAreas } from './own-areas.ts';
import { spacesOn, type SpaceRow } from './spaces.ts';
import {
  looseElements,
  storeysOf,
  type Model,
  type OpeningKind,
  type OpeningMeasure,
  type Storey,
  type Wall,
} from '../model/index.ts';

/** Square and cubic millimetres to the square and cubic metre. */
const SQUARE_METRE = 1e6,
  CUBIC_METRE = 1e9;

/** A storey: level and height in millimetres. */
export interface StoreyRow {
  name: string;
  level: number;
  height: number;
  assumed: 'height'[];
}

/** A wall: lengths in millimetres, areas in square metres, the volume in cubic metres. */
export interface WallRow {
  id: string;
  storey: string;
  /** Along its drawn line. */ length: number;
  height: number;
  thickness: number;
  /** One face along the drawn line, and the same without its openings. */ area: number;
  net: number;
  /** Of its body as it is cut to its neighbours, without its openings. */ volume: number;
  assumed: 'height'[];
}

/** An opening: lengths in millimetres. */
export interface OpeningRow {
  /** Its wall's id and its own, with a point between. */ id: string;
  kind: OpeningKind;
  tag: string;
  storey: string;
  width: number;
  height: number;
  sill: number;
  leaves: number;
  /** The edge at which one leaf hangs, and the side to which it opens, seen along its wall; null for what has no one leaf. */
  hung: { edge: 'from' | 'to'; opens: 'left' | 'right' } | null;
  wall: string;
  assumed: OpeningMeasure[];
}

export interface Takeoff {
  storeys: StoreyRow[];
  spaces: SpaceRow[];
  walls: WallRow[];
  openings: OpeningRow[];
}

/** What has been traced of a building, counted. Walls are cut to those of their storey. */
export function takeoff(model: Model): Takeoff {
  const walls: WallRow[] = [],
    spaces: SpaceRow[] = [];
  for (const storey of storeysOf(model)) {
    const here = wallsOn(model, storey),
      cut = cutWalls(here),
      areas = ownAreas(here, cut);
    spaces.push(...spacesOn(model, storey, here));
    for (const wall of here)
      walls.push(wallRow(wall, storey, cut.bodies.get(wall.id), areas.get(wall.id) ?? 0));
  }
  return {
    storeys: storeysOf(model).map((s) => ({
      name: s.name,
      level: s.elevation,
      height: s.height,
      assumed: s.heightAssumed ? ['height'] : [],
    })),
    spaces,
    walls,
    openings: openingSchedule(model),
  };
}

/** `area`: of its body in plan, square millimetres, without what it shares with others. */
function wallRow(wall: Wall, storey: Storey, body: Ring | undefined, area: number): WallRow {
  const band = bandOf(wall),
    open = openAreas(wall, band, body);
  return {
    id: wall.id,
    storey: storey.name,
    length: band.length,
    height: wall.height,
    thickness: wall.thickness,
    area: (band.length * wall.height) / SQUARE_METRE,
    net: (band.length * wall.height - open.face) / SQUARE_METRE,
    volume: (area * wall.height - open.volume) / CUBIC_METRE,
    assumed: wall.heightAssumed ? ['height'] : [],
  };
}

/** What openings take from a wall: of one face (mm²), and of its body (mm³). Those over one another count once, where they do. */
function openAreas(wall: Wall, band: WallBand, body: Ring | undefined): { face: number; volume: number } {
  const openings = openingsOf(wall),
    bounds = [...new Set(openings.flatMap((o) => [o.from, o.to]))].sort((a, b) => a - b);
  let face = 0,
    volume = 0;
  for (let i = 0; i + 1 < bounds.length; i++) {
    const [from, to] = [bounds[i], bounds[i + 1]],
      heights = openings
        .filter((o) => o.from <= from && o.to >= to)
        .map(({ opening }): [number, number] => [
          Math.max(0, opening.sill),
          Math.min(wall.height, opening.head),
        ]),
      high = lengthOfUnion(heights);
    if (high === 0) continue;
    face += (to - from) * high;
    if (body) volume += areaBetween(body, band, from, to) * high;
  }
  return { face, volume };
}

/** The part of a body between two distances along its wall, square millimetres. */
function areaBetween(body: Ring, band: WallBand, from: number, to: number): number {
  const rest = solidParts(body, band, [{ from, to }]).reduce(
    (sum, ring) => sum + Math.abs(ringArea(ring)),
    0,
  );
  return Math.abs(ringArea(body)) - rest;
}

function lengthOfUnion(intervals: readonly [number, number][]): number {
  let total = 0,
    end = -Infinity;
  for (const [from, to] of [...intervals].sort((a, b) => a[0] - b[0])) {
    total += Math.max(0, to - Math.max(from, end));
    end = Math.max(end, to);
  }
  return total;
}

const openingRows = (wall: Wall, storey: Storey): OpeningRow[] =>
  openingsOf(wall).map(({ opening: o, from, to }) => ({
    id: `${wall.id}.${o.id}`,
    kind: o.kind,
    tag: o.tag,
    storey: storey.name,
    width: to - from,
    height: o.head - o.sill,
    sill: o.sill,
    leaves: o.leaves,
    hung: o.kind === 'door' && o.leaves === 1 ? { edge: o.hung, opens: o.opens } : null,
    wall: wall.id,
    assumed: o.assumed,
  }));

/** All openings of the building, storey by storey; without cutting its walls to one another. */
export const openingSchedule = (model: Model): OpeningRow[] =>
  storeysOf(model).flatMap((storey) => wallsOn(model, storey).flatMap((wall) => openingRows(wall, storey)));

const wallsOn = (model: Model, { id }: Storey): Wall[] =>
  looseElements(model, id).filter((e): e is Wall => e.type === 'wall');
