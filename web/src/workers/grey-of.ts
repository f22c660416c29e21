/// <reference lib="webworker" />
import { greyFromRgba, type Raster } from '@calque/core/ink';

/** Rows taken out of the picture at once: all of a large scan with four bytes a pixel would be hundreds of megabytes. */
const BAND = 512;

/** The picture of a page as grey pixels; `scale` of them to the sheet point. The picture is used up. */
export function greyOf(bitmap: ImageBitmap, scale: number): Raster {
  const { width, height } = bitmap;
  const grey = new Uint8Array(width * height);
  const canvas = new OffscreenCanvas(width, Math.min(BAND, height)),
    context = canvas.getContext('2d', { willReadFrequently: true })!;
  for (let y = 0; y < height; y += BAND) {
    const rows = Math.min(BAND, height - y);
    context.drawImage(bitmap, 0, y, width, rows, 0, 0, width, rows);
    grey.set(greyFromRgba(context.getImageData(0, 0, width, rows).data, width, rows, scale).grey, y * width);
  }
  bitmap.close();
  return { width, height, grey, scale };
}
