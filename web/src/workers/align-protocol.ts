import type { Box } from '@calque/core/geometry';
import type { Registration } from '@calque/core/registration';

/** A sheet by the address of its linework (null for a scan, which has none) and by the lines that were read from its ink. */
export interface AlignedSheet {
  url: string | null;
  crop: Box;
  ink?: Float64Array;
}
/** One sheet that is to be laid onto another by the lines they share. */
export interface ToAlign {
  moving: AlignedSheet;
  onto: AlignedSheet;
}
/** `fit` takes sheet points of the moving one to sheet points of the other; the lines are those that were compared. */
export interface AlignResult {
  fit: Registration;
  moving: Float64Array;
  onto: Float64Array;
}
export type FromAlign =
  { type: 'progress'; share: number } | { type: 'none'; why: string } | ({ type: 'done' } & AlignResult);
