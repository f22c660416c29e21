import type { ConvertAsk, Converted } from '@calque/core/conversion';
import type { Point } from '@calque/core/geometry';

/** What of which page is to be converted; the region as a ring in sheet points. */
export interface ToConvert {
  url: string;
  ring: readonly Point[];
  ask: Omit<ConvertAsk, 'region'>;
}
export type FromConvert =
  | { type: 'progress'; share: number }
  | { type: 'failed'; why: string }
  | { type: 'done'; converted: Converted };
