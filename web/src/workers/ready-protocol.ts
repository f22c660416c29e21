import type { Entity } from '@calque/core/model';

/** A picture of a part of a view, as an address that stands in an SVG. */
export type ViewPictures = Readonly<Record<string, string>>;
export const pictureKey = (viewId: string, part: string): string => `${viewId}/${part}`;

/** A ready drawing that is to be written; `pictures` by pictureKey, of a sheet by its underlay's id. */
export type ReadyTask =
  | { make: 'svg'; drawingId: string; date: string; pictures: ViewPictures }
  | {
      make: 'pdf';
      drawingId: string;
      date: string;
      files: ReadonlyMap<string, Uint8Array>;
      pictures: ReadonlyMap<string, Uint8Array>;
    };

export type ToReady = ReadyTask & { entities: readonly Entity[] };

export type FromReady =
  | { type: 'progress'; share: number }
  | { type: 'failed'; why: string }
  | { type: 'done'; svg: string }
  | { type: 'done'; bytes: Uint8Array<ArrayBuffer>; changedLetters: number; leftOut: string[] };
