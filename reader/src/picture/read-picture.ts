import type { Raster } from '@calque/core/ink';
import { emptyLinework, kindCode, type Linework } from '@calque/core/linework';
import { ReadFailure } from '../failure.ts';

/** Resolution taken for pictures that state none: that of a screen, as most such pictures come from one. */
const USUAL_DPI = 96;
/** Pixels that reading may hold at once. */
const MOST_PIXELS = 2e9;

/** How many pages a picture file holds: a TIFF may have several, the frames of a moving picture count as one. */
export async function picturePages(bytes: Uint8Array): Promise<number> {
  const { default: sharp } = await import('sharp');
  const meta = await sharp(bytes, { limitInputPixels: MOST_PIXELS })
    .metadata()
    .catch(() => null);
  return meta?.format === 'tiff' ? (meta.pages ?? 1) : 1;
}

/** A picture file as a sheet: no linework, its size in points from its own resolution, its turn honoured. */
export async function readPicture(
  bytes: Uint8Array,
  page = 1,
): Promise<{ linework: Linework; dpi: number; pixels: [number, number] }> {
  const { default: sharp } = await import('sharp');
  const meta = await sharp(bytes, { limitInputPixels: MOST_PIXELS, page: page - 1 })
    .metadata()
    .catch((error: unknown) => {
      throw new ReadFailure(
        'damaged',
        `This picture cannot be read (${String(error).slice(0, 120)}). Save it again as PNG, JPEG or TIFF.`,
      );
    });
  if (!meta.width || !meta.height)
    throw new ReadFailure('damaged', 'This picture states no size. Save it again as PNG or JPEG.');
  const turned = (meta.orientation ?? 1) >= 5;
  const [w, h] = turned ? [meta.height, meta.width] : [meta.width, meta.height];
  // 72 is what the library answers when the file is silent.
  const dpi = meta.density && meta.density > 1 && meta.density !== 72 ? meta.density : USUAL_DPI;
  const width = (w * 72) / dpi,
    height = (h * 72) / dpi;
  return {
    dpi,
    pixels: [w, h],
    linework: {
      ...emptyLinework(width, height),
      pictures: [
        {
          object: 0,
          layer: -1,
          corners: [
            [0, 0],
            [width, 0],
            [width, height],
            [0, height],
          ],
          area: width * height,
          pixels: [w, h],
        },
      ],
      objects: Int32Array.of(-1, -1, kindCode('picture')),
      counts: { ...emptyLinework(0, 0).counts, images: 1 },
      content: 'scan',
    },
  };
}

/** A PNG of RGBA pixels or of a picture file, its longer side at most `pixels`. */
export async function thumbnail(
  source: { width: number; height: number; data: Uint8Array } | Uint8Array,
  pixels: number,
  page = 1,
): Promise<Buffer> {
  const { default: sharp } = await import('sharp');
  const image =
    source instanceof Uint8Array
      ? sharp(source, { limitInputPixels: MOST_PIXELS, page: page - 1 })
          .rotate()
          .toColourspace('srgb')
          .resize(pixels, pixels, { fit: 'inside' })
      : sharp(source.data, { raw: { width: source.width, height: source.height, channels: 4 } });
  return image.flatten({ background: '#ffffff' }).png({ compressionLevel: 8, palette: true }).toBuffer();
}

/** A picture file as grey pixels, turned as it says, `width` pixels wide. */
export async function greyPicture(
  bytes: Uint8Array,
  page: number,
  scale: number,
  width: number,
): Promise<Raster> {
  const { default: sharp } = await import('sharp');
  const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS, page: page - 1 })
    .rotate()
    .flatten({ background: '#ffffff' })
    .resize({ width })
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    grey: new Uint8Array(data.buffer, data.byteOffset, data.length),
    scale,
  };
}
