/// <reference lib="webworker" />
import { readPrinted } from '@calque/core/calibration';
import {
  pictureOffers,
  pixelsPerMillimetre,
  rasterScale,
  readPicture,
  type PictureReading,
} from '@calque/core/ink';
import type { Linework } from '@calque/core/linework';
import { greyOf } from './grey-of';
import type { FromPrinted, Offer, ToPrinted, ToRead, ToRecognise } from './printed-protocol';
import { startRecogniser } from './recogniser';
import { wholeLinework } from './whole-linework';

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
  const linework = await wholeLinework(asked.url);
  sheet = { linework, asked };
  const reading = readPrinted(linework, {
    units: asked.units,
    picture: asked.picture,
    progress: (share) => say({ type: 'progress', share }),
  });
  say({
    type: 'done',
    reading,
    offer: reading.views.length > 0 || asked.picture ? null : offerOf(linework),
    picture: asked.picture,
  });
}

function offerOf(l: Linework): Offer | null {
  const offers = l.reference ? null : pictureOffers(l);
  return offers && { lines: offers === 'scan', scale: rasterScale(l) };
}

async function recognise({ bitmap, scale, lines, isPicture }: ToRecognise): Promise<void> {
  if (!sheet) return;
  const raster = greyOf(bitmap, scale);
  const recogniser = await startRecogniser(new URL(sheet.asked.url).origin);
  const picture: PictureReading = await readPicture(raster, {
    lines,
    perMillimetre: pixelsPerMillimetre(raster, isPicture),
    recogniser: recogniser.read,
    progress: (share) => say({ type: 'progress', share: 0.95 * share }),
  });
  recogniser.stop();
  say({
    type: 'done',
    reading: readPrinted(sheet.linework, { units: sheet.asked.units, picture }),
    offer: null,
    picture,
  });
}
