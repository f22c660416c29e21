import type { Content, Counts, LeftOut, ScaleNote, SheetLayer, SheetTitle } from '@calque/core/linework';
import type { FailureCode } from '../failure.ts';
import type { FileKind } from '../kinds.ts';

/** What the service tells its child, as the one argument. */
export interface ChildTask {
  /** File to read. */
  source: string;
  /** Folder for the results: N.cqlw (linework with index) and N.png (picture) per page. */
  results: string;
  password: string | null;
  maxMegabytes: number;
  picturePixels: number;
  millimetresPerUnit: number | null;
}

/** What is kept of a page beside its linework and picture. */
export interface PageFacts {
  page: number;
  width: number;
  height: number;
  content: Content;
  counts: Counts;
  leftOut: LeftOut;
  layers: SheetLayer[];
  scaleNotes: ScaleNote[];
  milliseconds: number;
  title: SheetTitle;
  words: string;
  hatches: number;
  dimensions: number;
  markups: number;
  reference: { origin: readonly [number, number] } | null;
  unknown: Record<string, number> | null;
  pixels: { width: number; height: number } | null;
}

/** What the child answers. */
export type ChildMessage =
  | { type: 'facts'; pages: number; kind: FileKind; encrypted: boolean; repaired: boolean; /** There is a copy for drawing, drawing.pdf. */ drawing: boolean }
  /** Its tiles, where it has some, lie in N.tiles. */
  | ({ type: 'page' } & PageFacts)
  | { type: 'done' }
  | { type: 'failure'; code: FailureCode; message: string };
