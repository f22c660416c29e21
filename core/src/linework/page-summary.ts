import type { SheetTitle } from './title-block.ts';
import type { ScaleNote } from './scale-notes.ts';
import type { Content, Counts, LeftOut, SheetLayer, TrueSize } from './types.ts';

/** What a list of pages shows of one, without its linework. Sizes in sheet points. */
export interface PageSummary {
  page: number;
  width: number;
  height: number;
  content: Content;
  counts: Counts;
  leftOut: LeftOut;
  layers: SheetLayer[];
  scaleNotes: ScaleNote[];
  title: SheetTitle | null;
  hatches: number;
  dimensions: number;
  markups: number;
  /** A drawing at true size: where its own origin lies, and what of it was not understood. */
  reference: TrueSize | null;
  unknown: Record<string, number> | null;
  /** Its hatches and dimensions are told apart and its picture is there; not yet where its lines came first. */
  whole: boolean;
  /** Pixels of a picture that is kept in tiles. */
  pixels: { width: number; height: number } | null;
}
