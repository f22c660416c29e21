import { rasterScale, type Raster } from '@calque/core/ink';
import type { Linework } from '@calque/core/linework';
import { ReadFailure } from './failure.ts';
import { kindOf, PICTURE_KINDS } from './kinds.ts';
import { openPdf } from './pdf/read-pdf.ts';
import { greyPicture } from './picture/read-picture.ts';

/** A page as grey pixels, as fine as recognition wants it; drawings have no picture. `isPicture`: its size in points says nothing of paper. */
export async function readRaster(
  bytes: Uint8Array,
  page: number,
  linework: Linework,
  options: { password?: string; maxMegabytes: number },
): Promise<{ raster: Raster; isPicture: boolean }> {
  const kind = kindOf(bytes);
  const scale = rasterScale(linework);
  if (kind === 'pdf') {
    const reader = await openPdf(bytes, options);
    const raster = reader.raster(page, scale);
    reader.close();
    return { raster, isPicture: false };
  }
  if (kind === null || !PICTURE_KINDS.includes(kind))
    throw new ReadFailure('unknown-kind', 'Only PDF and pictures can be looked at as pixels.');
  return {
    raster: await greyPicture(bytes, page, scale, Math.round(linework.width * scale)),
    isPicture: true,
  };
}
