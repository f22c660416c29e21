import { footprintOf, volumeOfAll, type Point } from '../geometry/index.ts';
import {
  looseElements,
  looseKind,
  risersOf,
  roofShape,
  slabArea,
  slopedArea,
  stairFigures,
  storeysOf,
  type Loose,
  type Model,
  type RoofMeasure,
  type SlabMeasure,
} from '../model/index.ts';
import { CUBIC_METRE, SQUARE_METRE } from './measures.ts';

/** A slab: lengths in millimetres, the area without its holes in square metres, the volume in cubic metres. */
export interface SlabRow {
  id: string;
  storey: string;
  area: number;
  thickness: number;
  /** Its upper face above the level of its storey. */ top: number;
  volume: number;
  assumed: SlabMeasure[];
}

/** A plane of a roof: as it slopes, in square metres; its pitch in degrees. */
export interface RoofRow {
  id: string;
  storey: string;
  area: number;
  pitch: number;
  /** The same in plan, square metres. */ plan: number;
  /** Share of the roof's volume, cubic metres. */ volume: number;
  assumed: RoofMeasure[];
}

export interface ColumnRow {
  id: string;
  storey: string;
  form: 'round' | 'rectangle' | 'outline';
  /** Across its section, or its diameter; null for a drawn outline. */ width: number | null;
  depth: number | null;
  height: number;
  /** Of its section, square metres. */ area: number;
  volume: number;
  at: Point;
  assumed: 'height'[];
}

/** A stair: lengths in millimetres. */
export interface StairRow {
  id: string;
  storey: string;
  risers: number;
  rise: number;
  going: number;
  width: number;
  /** From foot to top. */ height: number;
  volume: number;
  /** What is unusual of its steps. */ doubts: string[];
  assumed: 'rise'[];
}

export interface Parts {
  slabs: SlabRow[];
  roofs: RoofRow[];
  columns: ColumnRow[];
  stairs: StairRow[];
}

const DEGREES = 180 / Math.PI;

/** Slabs, planes of roofs, columns and stairs of a building, storey by storey. */
export function partsOf(model: Model): Parts {
  const parts: Parts = { slabs: [], roofs: [], columns: [], stairs: [] };
  for (const storey of storeysOf(model))
    for (const e of looseElements(model, storey.id)) addTo(parts, e, storey.name);
  return parts;
}

function addTo(parts: Parts, e: Loose, storey: string): void {
  const volume = () => volumeOfAll(looseKind(e).blocks(e)) / CUBIC_METRE,
    own = { id: e.id, storey };
  if (e.type === 'slab')
    parts.slabs.push({
      ...own,
      area: slabArea(e) / SQUARE_METRE,
      thickness: e.thickness,
      top: e.top,
      volume: volume(),
      assumed: e.assumed,
    });
  if (e.type === 'column')
    parts.columns.push({
      ...own,
      form: e.section.form,
      width: sizeOf(e.section, 'width'),
      depth: sizeOf(e.section, 'depth'),
      height: e.height,
      area:
        looseKind(e)
          .blocks(e)
          .reduce((sum, b) => sum + footprintOf(b), 0) / SQUARE_METRE,
      volume: volume(),
      at: e.at,
      assumed: e.heightAssumed ? ['height'] : [],
    });
  if (e.type === 'stair') {
    const { risers: _, ...figures } = stairFigures(e);
    parts.stairs.push({
      ...own,
      risers: risersOf(e),
      rise: figures.rise,
      going: figures.going,
      width: e.width,
      height: e.rise,
      volume: volume(),
      doubts: figures.doubts,
      assumed: e.riseAssumed ? ['rise'] : [],
    });
  }
  if (e.type === 'roof') parts.roofs.push(...roofRows(e, own));
}

function sizeOf(
  section: Extract<Loose, { type: 'column' }>['section'],
  which: 'width' | 'depth',
): number | null {
  if (section.form === 'round') return section.diameter;
  return section.form === 'rectangle' ? section[which] : null;
}

function roofRows(e: Extract<Loose, { type: 'roof' }>, own: { id: string; storey: string }): RoofRow[] {
  const shape = roofShape(e);
  if ('why' in shape) return [];
  const blocks = looseKind(e).blocks(e);
  return shape.faces.map((face, i): RoofRow => ({
    ...own,
    area: slopedArea(face) / SQUARE_METRE,
    pitch: face.pitch * DEGREES,
    plan: footprintOf(blocks[i]) / SQUARE_METRE,
    volume: volumeOfAll([blocks[i]]) / CUBIC_METRE,
    assumed: e.assumed,
  }));
}
