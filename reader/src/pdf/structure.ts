import type { PageLayer } from '@calque/core/linework';

/** Keys written into layer dictionaries so that the engine's marks can be told apart by identity. */
export const LAYER_KEY = 'CalqueLayer';
export const OFF_KEY = 'CalqueOff';

export interface LayerTable {
  layers: PageLayer[];
  /** UserUnit of each page (1 where the file states none). */
  userUnits: number[];
  /** The file with its layers marked, or null when the file as it came will do. */
  bytes: Uint8Array | null;
}

export const NO_LAYERS: LayerTable = { layers: [], userUnits: [], bytes: null };

/** Can the file hold layers or a UserUnit at all? Object streams hide names, so they count as yes. */
export function needsStructure(bytes: Uint8Array): boolean {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return ['/UserUnit', '/OCProperties', '/ObjStm'].some((name) => text.includes(name, 0, 'latin1'));
}

/** Layers and UserUnit; the library that parses them takes a quarter of a second to load, so only where they may be. */
export async function readLayers(bytes: Uint8Array, password?: string): Promise<LayerTable> {
  if (!needsStructure(bytes)) return NO_LAYERS;
  const { parseLayers } = await import('./layers.ts');
  return parseLayers(bytes, password);
}
