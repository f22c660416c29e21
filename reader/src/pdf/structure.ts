import { NO_LAYERS, type LayerTable } from './layer-table.ts';

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
