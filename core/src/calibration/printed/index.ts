export { onPhoto, scalesOnPhoto } from './on-photo.ts';
export { readPrinted } from './read-printed.ts';
export {
  isStraight,
  type DimensionKind,
  type FigurePlace,
  type PhotoReading,
  type PrintedDimension,
  type PrintedNote,
  type PrintedOptions,
  type PrintedReading,
  type SheetView,
  type UnknownPart,
} from './types.ts';
export { lengthAt, type ViewScale } from './fit-view.ts';
export type { Rival } from './consensus.ts';
export type { ChainCheck } from './chains.ts';
