import type { PrintedReading } from '@calque/core/calibration';
import type { PictureReading } from '@calque/core/ink';
import type { BareUnit } from '@calque/core/units';

/** Whose printed dimensions are to be read, by the address of its linework; `picture`: what has been recognised on it before. */
export interface ToRead {
  type: 'read';
  url: string;
  units: BareUnit | null;
  picture: PictureReading | null;
}
/** The page's picture, `scale` pixels to the sheet point, for recognition. `isPicture`: its size in points says nothing of paper. */
export interface ToRecognise {
  type: 'recognise';
  bitmap: ImageBitmap;
  scale: number;
  lines: boolean;
  isPicture: boolean;
}
export type ToPrinted = ToRead | ToRecognise;

/** What the page's picture may tell where its texts do not, and at how many pixels to the sheet point it is to be drawn. */
export interface Offer {
  lines: boolean;
  scale: number;
}

export type FromPrinted =
  | { type: 'progress'; share: number }
  | { type: 'failed'; why: string }
  | { type: 'done'; reading: PrintedReading; offer: Offer | null; picture: PictureReading | null };
