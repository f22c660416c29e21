export { greyAt, greyFromRgba, sheetFromPixel, type Raster } from './raster.ts';
export { inkMask } from './ink-mask.ts';
export { componentsOf, type Component, type Components } from './components.ts';
export { inkLines, type InkLine } from './lines/ink-lines.ts';
export { meetEnds } from './lines/meet-ends.ts';
export { fitInkAt, type InkFit } from './fit/fit-at.ts';
export { readInk, type InkReading } from './figures/read-ink.ts';
export { alike, corrected } from './figures/corrected.ts';
export { textBlocks, type TextBlock } from './figures/text-blocks.ts';
export { textImage, type TextImage } from './figures/text-image.ts';
export { recogniserOf, recogniseTexts, type Recogniser } from './figures/recognise.ts';
export type { RecognisedText } from './figures/recognised-text.ts';
export {
  pictureOffers,
  pixelsPerMillimetre,
  rasterScale,
  readPicture,
  inkSlack,
  withInkLines,
  type PictureReading,
  type StraightSheet,
} from './picture.ts';
export { firstLook, photoPlane, type FirstLook } from './photo/photo-plane.ts';
export { rightAngles } from './photo/right-angles.ts';
export { sheetOutline } from './photo/sheet-outline.ts';
export { straightRaster, type PhotoPlane } from './photo/straight-raster.ts';
export { addFaintLines } from './lines/faint-lines.ts';
