import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';

export const TILE_PIXELS = 512;
/** A smaller picture of a kind that browsers read is drawn from its own file. */
const SMALL_PIXELS = 12e6;
const QUALITY = 90;

export const wantsTiles = (kind: string, pixels: readonly [number, number]): boolean =>
  kind === 'tiff' || pixels[0] * pixels[1] > SMALL_PIXELS;

/**
 * Cuts a picture into tiles, each level half as fine as the one above, level 0 in one tile; turned as it says,
 * in screen colours, eight bits a channel. Files: folder/level/column_row.jpeg.
 */
export async function writePyramid(source: string, page: number, folder: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const { default: sharp } = await import('sharp');
  await sharp(source, { limitInputPixels: false, page: page - 1, unlimited: true })
    .rotate()
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .jpeg({ quality: QUALITY })
    .tile({ size: TILE_PIXELS, overlap: 0, layout: 'dz', depth: 'onetile', container: 'fs' })
    .toFile(join(folder, 'p.dz'));
}
