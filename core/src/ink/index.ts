export { greyAt, greyFromRgba, sheetFromPixel, type Raster } from './raster.ts';
export { inkMask } from './ink-mask.ts';
export { componentsOf, type Component, type Components } from './components.ts';
export { inkLines, type InkLine } from './lines/ink-lines.ts';
export { readInk, type InkReading } from './figures/read-ink.ts';
export { textBlocks, type TextBlock } from './figures/text-blocks.ts';
export { textImage, type TextImage } from './figures/text-image.ts';
export { corrected, pgmOf, recogniseTexts, type RecognisedText, type Recogniser } from './figures/recognise.ts';
export { pictureOffers, pixelsPerMillimetre, rasterScale, readPicture, withInkLines, type PictureReading } from './picture.ts';
