/// <reference lib="webworker" />
import { readPrinted } from '@calque/core/calibration';
import { greyFromRgba, pictureOffers, pixelsPerMillimetre, rasterScale, readPicture, type PictureReading, type Raster } from '@calque/core/ink';
import { decodeLinework, type Linework } from '@calque/core/linework';
import type { FromPrinted, Offer, ToPrinted, ToRead, ToRecognise } from './printed-protocol';
import { startRecogniser } from './recogniser';
import { fetchBytes } from './sheet-pictures';

/** Reads the printed dimensions of a sheet, and recognises figures on its picture where its texts tell nothing. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromPrinted) => self.postMessage(message);

let sheet: { linework: Linework; asked: ToRead } | null = null;

self.onmessage = async ({ data }: MessageEvent<ToPrinted>) => {
  try {
    if (data.type === 'read') await read(data);
    else await recognise(data);
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};

async function read(asked: ToRead): Promise<void> {
  const { linework } = decodeLinework(await fetchBytes(asked.url));
  sheet = { linework, asked };
  const reading = readPrinted(linework, { units: asked.units, picture: asked.picture, progress: (share) => say({ type: 'progress', share }) });
  say({ type: 'done', reading, offer: reading.views.length > 0 || asked.picture ? null : offerOf(linework), picture: asked.picture });
}

function offerOf(l: Linework): Offer | null {
  const offers = l.reference ? null : pictureOffers(l);
  return offers && { lines: offers === 'scan', scale: rasterScale(l) };
}

async function recognise({ bitmap, scale, lines, isPicture }: ToRecognise): Promise<void> {
  if (!sheet) return;
  const raster = greyOf(bitmap, scale);
  const recogniser = await startRecogniser(new URL(sheet.asked.url).origin);
  const picture: PictureReading = await readPicture(raster, { lines, perMillimetre: pixelsPerMillimetre(raster, isPicture), recogniser: recogniser.read, progress: (share) => say({ type: 'progress', share: 0.95 * share }) });
  recogniser.stop();
  say({ type: 'done', reading: readPrinted(sheet.linework, { units: sheet.asked.units, picture }), offer: null, picture });
}

/** Rows taken out of the picture at once: all of a large scan with four bytes a pixel would be hundreds of megabytes. */
const BAND = 512;

function greyOf(bitmap: ImageBitmap, scale: number): Raster {
  const { width, height } = bitmap;
  const grey = new Uint8Array(width * height);
  const canvas = new OffscreenCanvas(width, Math.min(BAND, height)), context = canvas.getContext('2d', { willReadFrequently: true })!;
  for (let y = 0; y < height; y += BAND) {
    const rows = Math.min(BAND, height - y);
    context.drawImage(bitmap, 0, y, width, rows, 0, 0, width, rows);
    grey.set(greyFromRgba(context.getImageData(0, 0, width, rows).data, width, rows, scale).grey, y * width);
  }
  bitmap.close();
  return { width, height, grey, scale };
}
