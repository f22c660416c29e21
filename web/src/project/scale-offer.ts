import { createContext } from 'react';
import type { Change, Underlay } from '@calque/core/model';
import type { FileInfo, SheetInfo } from './wire';

/** What a page that has just been read says of its scale, and how it is laid down by that in one step. */
export interface ScaleOffer {
  /** As a sentence: "27 of its 28 printed dimensions agree on 1:100, within 0.05 %." */
  words: string;
  /** What else is to be known of it, as a sentence; empty where nothing is. */
  but: string;
  /** The sheet as it lies to scale, with what goes with it in the same step; null where it cannot be fitted. */
  laid(underlay: Underlay): { underlay: Underlay; more: Change[]; label: string } | null;
}

/** Reading, and what came of it; null where a page is not read for it, as a scan. */
export type OfferState =
  { state: 'reading'; share: number } | { state: 'found'; offer: ScaleOffer } | { state: 'none' } | null;

/** How the stage that lays sheets asks the stage that brings them to scale: a hook, given by the shell around both. */
export const ScaleOfferContext = createContext<
  (file: FileInfo, sheet: SheetInfo, crop: Underlay['crop']) => OfferState
>(() => null);
