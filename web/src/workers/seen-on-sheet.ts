/// <reference lib="webworker" />
import { MM_PER_POINT } from '@calque/core/geometry';
import {
  inkSlack,
  pixelsPerMillimetre,
  readPicture,
  withInkLines,
  type PictureReading,
} from '@calque/core/ink';
import type { Linework } from '@calque/core/linework';
import { partOfSheet, proposalsOn, type Proposals } from '@calque/core/proposals';
import { greyOf } from './grey-of';
import type { ToPropose } from './propose-protocol';
import { startRecogniser } from './recogniser';
import { wholeLinework } from './whole-linework';

/** What of a sheet shows, with the lines of its ink where it is a scan, and what that is seen to show. Throws in words. */
export async function seenOnSheet(
  { url, ring, switches, placement, told, ink: known, picture }: ToPropose,
  progress: (share: number) => void = () => {},
): Promise<{ shown: Linework; proposals: Proposals; ink: PictureReading | null }> {
  const own = await wholeLinework(url),
    isScan = own.content === 'scan';
  if (isScan && !known && !picture)
    throw new Error('The picture of this sheet cannot be drawn. Try it again.');
  const ink = isScan ? (known ?? (await inkOf(picture!, new URL(url).origin, progress))) : null,
    linework = ink ? withInkLines({ ...own, texts: [...own.texts, ...ink.texts] }, ink, { pens: true }) : own,
    [a, b, c, d] = placement,
    part = { ring, switches };
  return {
    ink,
    shown: partOfSheet(linework, part),
    proposals: proposalsOn(
      linework,
      { x: Math.hypot(a, b) / MM_PER_POINT, y: Math.hypot(c, d) / MM_PER_POINT },
      { ...part, told, slack: ink ? inkSlack(ink) : 0 },
    ),
  };
}

async function inkOf(
  { bitmap, scale, isPicture }: NonNullable<ToPropose['picture']>,
  origin: string,
  progress: (share: number) => void,
): Promise<PictureReading> {
  const raster = greyOf(bitmap, scale),
    recogniser = await startRecogniser(origin);
  try {
    return await readPicture(raster, {
      lines: true,
      perMillimetre: pixelsPerMillimetre(raster, isPicture),
      recogniser: recogniser.read,
      progress,
    });
  } finally {
    recogniser.stop();
  }
}
