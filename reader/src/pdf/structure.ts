import { NO_LAYERS, type LayerTable } from './layer-table.ts';

/** Can the file hold layers or a UserUnit at all? Object streams hide names, so they count as yes. */
export function needsStructure(bytes: Uint8Array): boolean {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return ['/UserUnit', '/OCProperties', '/ObjStm'].some((name) => text.includes(name, 0, 'latin1'));
}

/** A tiling pattern is a stream, so its dictionary stands open in every file (ISO 32000-1, 8.7.3). */
function hasTilingPattern(bytes: Uint8Array): boolean {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (
    let at = text.indexOf('/PatternType', 0, 'latin1');
    at >= 0;
    at = text.indexOf('/PatternType', at + 1, 'latin1')
  ) {
    if (/^\/PatternType\s*1\b/.test(text.subarray(at, at + 24).toString('latin1'))) return true;
  }
  return false;
}

/** Layers and UserUnit; the library that parses them takes a quarter of a second to load, so only where they may be. */
export async function readLayers(bytes: Uint8Array, password?: string): Promise<LayerTable> {
  const patterns = hasTilingPattern(bytes) ? ('tiling' as const) : ('shading' as const);
  if (!needsStructure(bytes)) return { ...NO_LAYERS, patterns };
  const { parseLayers } = await import('./layers.ts');
  return { ...(await parseLayers(bytes, password)), patterns };
}
