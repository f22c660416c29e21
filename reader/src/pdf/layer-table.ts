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
  /** What a fill without a colour of its own is in this file. */
  patterns: 'tiling' | 'shading';
}

export const NO_LAYERS: LayerTable = { layers: [], userUnits: [], bytes: null, patterns: 'shading' };
