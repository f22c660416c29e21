import type { Room } from '@calque/core/building';
import type { Polygon } from '@calque/core/geometry';
import type { OpenBoundary, Wall } from '@calque/core/model';

/** What page and tile worker say to each other: types alone. */
export interface OpenSheet {
  type: 'open';
  key: string;
  source: SheetSource;
}

/** Where a sheet's picture comes from: a PDF's bytes, a picture file, tiles kept on the server, or its linework alone. */
export type SheetSource =
  | {
      kind: 'pdf';
      url: string;
      /** Where its password is fetched; null where it has none. */ passwordUrl: string | null;
    }
  | { kind: 'picture'; url: string }
  | { kind: 'tiles'; url: string; width: number; height: number }
  | { kind: 'lines'; url: string };

/** What is off in a picture: page objects and annotations of a PDF by their numbers, items of the linework by theirs. */
export interface TellLook {
  type: 'look';
  key: string;
  page: number;
  look: string;
  objects: Uint8Array;
  annotations: number[];
  items: Uint8Array | null;
}

/**
 * A tile of a sheet: `scale` pixels per sheet point, its corner `x`, `y` in pixels from the displayed page's
 * top left. `sheetWidth`, `sheetHeight`: the page's size in sheet points. `look`: empty for the sheet as it came.
 */
export interface RenderTile {
  type: 'render';
  id: number;
  key: string;
  page: number;
  look: string;
  scale: number;
  x: number;
  y: number;
  width: number;
  height: number;
  sheetWidth: number;
  sheetHeight: number;
}

export interface CancelTile {
  type: 'cancel';
  id: number;
}

export type ToWorker = OpenSheet | TellLook | RenderTile | CancelTile;
export type FromWorker =
  | { type: 'tile'; id: number; bitmap: ImageBitmap }
  | { type: 'tile-failed'; id: number }
  | { type: 'sheet-failed'; key: string; message: string };

/** Walls of one storey to be united; `key` tells which state of it they are. */
export interface ToJoins {
  key: number;
  walls: Wall[];
  /** Where rooms end without walls. */ open: OpenBoundary[];
}
export interface FromJoins {
  key: number;
  /** First these … */ outlines?: Polygon[];
  /** … and then what they enclose. */ rooms?: Room[];
}
