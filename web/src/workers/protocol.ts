import type { Polygon } from '@calque/core/geometry';
import type { Wall } from '@calque/core/model';

/** What page and tile worker say to each other: types alone. */
export interface OpenSheet { type: 'open'; key: string; url: string; kind: 'pdf' | 'picture'; password: string | null }

/**
 * A tile of a sheet: `scale` pixels per sheet point, its corner `x`, `y` in pixels from the displayed page's
 * top left. `sheetWidth`, `sheetHeight`: the page's size in sheet points.
 */
export interface RenderTile {
  type: 'render';
  id: number;
  key: string;
  page: number;
  scale: number;
  x: number;
  y: number;
  width: number;
  height: number;
  sheetWidth: number;
  sheetHeight: number;
}

export interface CancelTile { type: 'cancel'; id: number }

export type ToWorker = OpenSheet | RenderTile | CancelTile;
export type FromWorker =
  | { type: 'tile'; id: number; bitmap: ImageBitmap }
  | { type: 'tile-failed'; id: number }
  | { type: 'sheet-failed'; key: string; message: string };

/** Walls of one storey to be united; `key` tells which state of it they are. */
export interface ToJoins { key: number; walls: Wall[] }
export interface FromJoins { key: number; outlines: Polygon[] }
