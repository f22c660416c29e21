import {
  arcOf,
  areaOf,
  bandOf,
  cutWalls,
  layerBodies,
  openingsOf,
  coresOf,
  ownBodies,
  widthOfOpening,
} from '../building/index.ts';
import { volumeOfAll, type Polygon } from '../geometry/index.ts';
import { coversOver, wallBlocks, type Cover } from '../solids/index.ts';
import { CUBIC_METRE, SQUARE_METRE } from './measures.ts';
import { countFrame, type FrameCount } from './members.ts';
import { partsOf, type Parts } from './parts.ts';
import { levelSides } from './level-sides.ts';
import { countedRooms, type SpaceRow } from './spaces.ts';
import { faceOf } from './wall-face.ts';
import {
  footOf,
  looseElements,
  storeysOf,
  wallTypeName,
  wallTypeOf,
  type LayerPurpose,
  type Model,
  type OpeningKind,
  type OpeningMeasure,
  type Storey,
  type Wall,
} from '../model/index.ts';

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
  /** The wall type that it is of; of one of none, its thickness in words. */ type: string;
  /** Along its drawn line. */ length: number;
  /** Level of its foot, and above that how high it is; what goes up to a roof has its own height only where none is. */
  base: number;
  height: number;
  thickness: number;
  /** One face along the drawn line, and the same without its openings. */ area: number;
  net: number;
  /** What it covers of the plan by itself, square metres. */ plan: number;
  /** Of its body as it is cut to its neighbours, without its openings. */ volume: number;
  assumed: 'height'[];
}

/** A layer of all walls of one type on one storey: its thickness in millimetres, what is seen of one face, and what it takes. */
export interface LayerRow {
  type: string;
  storey: string;
  /** From the first face, 1 the first. */ place: number;
  material: string;
  purpose: LayerPurpose;
  thickness: number;
  /** Square metres, without openings. */ area: number;
  /** Cubic metres. */ volume: number;
  walls: string[];
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
  /** As its schedule says; perhaps nothing. */
  type: string;
  material: string;
  /** The edge at which one leaf hangs, and the side to which it opens, seen along its wall; null for what has no one leaf. */
  hung: { edge: 'from' | 'to'; opens: 'left' | 'right' } | null;
  wall: string;
  assumed: OpeningMeasure[];
}

export interface Takeoff extends Parts, FrameCount {
  storeys: StoreyRow[];
  spaces: SpaceRow[];
  walls: WallRow[];
  layers: LayerRow[];
  openings: OpeningRow[];
}

/** What has been traced of a building, counted. Walls are cut to those of their storey. */
export function takeoff(model: Model): Takeoff {
  const walls: WallRow[] = [],
    layers: LayerRow[] = [],
    rooms: ReturnType<typeof countedRooms>[] = [];
  for (const storey of storeysOf(model)) {
    const here = wallsOn(model, storey),
      own = ownBodies(here, cutWalls(here), coresOf(model)),
      covers = here.some((w) => w.underRoof) ? coversOver(model, storey) : [];
    rooms.push(countedRooms(model, storey, here));
    for (const wall of here)
      walls.push(wallRow(wall, storey, wallTypeName(model, wall), own.get(wall.id) ?? [], covers));
    layers.push(...layerRows(model, storey, here, own, covers));
  }
  const sides = levelSides(rooms),
    spaces = rooms
      .flat()
      .map(({ row }): SpaceRow => ({ ...row, boundaries: [...row.boundaries, ...(sides.get(row) ?? [])] }));
  return {
    storeys: storeysOf(model).map((s) => ({
      name: s.name,
      level: s.elevation,
      height: s.height,
      assumed: s.heightAssumed ? ['height'] : [],
    })),
    spaces,
    walls,
    layers,
    openings: openingSchedule(model),
    ...partsOf(model),
    ...countFrame(model),
  };
}

/** What the layers of the walls of a storey take, type by type. */
function layerRows(
  model: Model,
  storey: Storey,
  walls: readonly Wall[],
  own: ReadonlyMap<string, Polygon[]>,
  covers: readonly Cover[],
): LayerRow[] {
  const rows = new Map<string, LayerRow[]>();
  for (const wall of walls) {
    const type = wallTypeOf(model, wall);
    if (!type) continue;
    let known = rows.get(type.id);
    if (!known)
      rows.set(
        type.id,
        (known = type.layers.map((layer, i) => ({
          type: type.name,
          storey: storey.name,
          place: i + 1,
          ...layer,
          area: 0,
          volume: 0,
          walls: [],
        }))),
      );
    for (const [i, { body }] of layerBodies(wall, type, own.get(wall.id) ?? []).entries()) {
      const volume = volumeOfAll(wallBlocks(wall, body, covers)) / CUBIC_METRE;
      known[i].volume += volume;
      known[i].area += volume / (known[i].thickness / 1000);
      known[i].walls.push(wall.id);
    }
  }
  return [...rows.values()].flat();
}

function wallRow(
  wall: Wall,
  storey: Storey,
  type: string,
  own: readonly Polygon[],
  covers: readonly Cover[],
): WallRow {
  const face = faceOf(wall, covers);
  return {
    id: wall.id,
    storey: storey.name,
    type,
    length: arcOf(wall)?.length ?? bandOf(wall).length,
    base: storey.elevation + footOf(wall),
    height: wall.height,
    thickness: wall.thickness,
    area: face.gross / SQUARE_METRE,
    net: face.net / SQUARE_METRE,
    plan: areaOf(own) / SQUARE_METRE,
    volume: volumeOfAll(wallBlocks(wall, own, covers)) / CUBIC_METRE,
    assumed: wall.heightAssumed ? ['height'] : [],
  };
}

const openingRows = (wall: Wall, storey: Storey): OpeningRow[] =>
  openingsOf(wall).map(({ opening: o, from, to }) => ({
    id: `${wall.id}.${o.id}`,
    kind: o.kind,
    tag: o.tag,
    storey: storey.name,
    width: widthOfOpening(wall, { from, to }),
    height: o.head - o.sill,
    sill: o.sill,
    leaves: o.leaves,
    type: o.type ?? '',
    material: o.material ?? '',
    hung: o.kind === 'door' && o.leaves === 1 ? { edge: o.hung, opens: o.opens } : null,
    wall: wall.id,
    assumed: o.assumed,
  }));

/** All openings of the building, storey by storey; without cutting its walls to one another. */
export const openingSchedule = (model: Model): OpeningRow[] =>
  storeysOf(model).flatMap((storey) => wallsOn(model, storey).flatMap((wall) => openingRows(wall, storey)));

const wallsOn = (model: Model, { id }: Storey): Wall[] =>
  looseElements(model, id).filter((e): e is Wall => e.type === 'wall');
