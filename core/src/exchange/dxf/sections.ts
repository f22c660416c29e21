import type { Point } from '../../geometry/index.ts';
import { dxfColour } from './colours.ts';
import { number, numbers, text, type DxfRecord } from './records.ts';

/** Millimetres per unit by $INSUNITS (DXF reference, header variables); units that are no lengths of a building are left out. */
const UNITS: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  3: 1609344,
  4: 1,
  5: 10,
  6: 1000,
  7: 1e6,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  13: 1e-3,
  14: 100,
  15: 1e4,
  16: 1e5,
};

export interface DxfLayer {
  on: boolean;
  /** 0xRRGGBB. */ colour: number;
  /** Hundredths of a millimetre on paper; negative: none of its own. */ width: number;
}
export interface DxfBlock {
  base: Point;
  entities: DxfRecord[];
}

/** What a file says in its sections, not drawn yet. */
export interface DxfSections {
  layers: ReadonlyMap<string, DxfLayer>;
  /** By name in capitals: names of blocks are the same in any case. */
  blocks: ReadonlyMap<string, DxfBlock>;
  entities: readonly DxfRecord[];
  /** Null where the file names no unit, or none of a length. */
  millimetresPerUnit: number | null;
}

export function dxfSections(records: readonly DxfRecord[]): DxfSections {
  const layers = new Map<string, DxfLayer>(),
    blocks = new Map<string, DxfBlock>(),
    entities: DxfRecord[] = [];
  let millimetresPerUnit: number | null = null,
    section = '',
    block: DxfBlock | null = null;
  for (const r of records) {
    if (r.type === 'SECTION') section = text(r, 2);
    else if (section === 'TABLES' && r.type === 'LAYER') layers.set(text(r, 2), layerOf(r));
    else if (section === 'BLOCKS' && r.type === 'BLOCK') {
      block = { base: [number(r, 10), number(r, 20)], entities: [] };
      blocks.set(text(r, 2).toUpperCase(), block);
    } else if (section === 'BLOCKS' && r.type === 'ENDBLK') block = null;
    else if (section === 'BLOCKS') block?.entities.push(r);
    else if (section === 'ENTITIES' && r.type !== 'ENDSEC') entities.push(r);
    if (section === 'HEADER') millimetresPerUnit = unitOf(r, millimetresPerUnit);
  }
  return { layers, blocks, entities, millimetresPerUnit };
}

function unitOf(r: DxfRecord, before: number | null): number | null {
  const at = r.pairs.findIndex(([code, value]) => code === 9 && value === '$INSUNITS');
  return at < 0 ? before : (UNITS[Number(r.pairs[at + 1]?.[1])] ?? null);
}

function layerOf(r: DxfRecord): DxfLayer {
  const colour = number(r, 62, 7),
    frozen = (number(r, 70) & 1) !== 0;
  return {
    on: colour >= 0 && !frozen,
    colour: dxfColour(Math.abs(colour), numbers(r, 420)[0]),
    width: number(r, 370, -3),
  };
}
