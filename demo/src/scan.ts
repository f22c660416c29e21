import sharp from 'sharp';
import { openPdf } from '@calque/reader';

const DPI = 150;
const TURN_DEGREES = 1.6;

/** Prints a drawing, lays it askew on grey paper and scans it: a picture with noise, no lines to snap to. */
export async function scanOf(pdf: Uint8Array): Promise<Uint8Array> {
  const reader = await openPdf(pdf, { maxMegabytes: 512 });
  const { width, height, data } = reader.picture(1, Math.round((420 / 25.4) * DPI));
  reader.close();
  // A fixed sequence instead of chance, so that every installation gets the same scan.
  let seed = 20260105;
  const noise = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32 - 0.5;
  };
  const turned = await sharp(data, { raw: { width, height, channels: 4 } })
    .flatten({ background: '#fff' })
    .greyscale()
    .rotate(-TURN_DEGREES, { background: '#f4f2ee' })
    .resize(width, height, { fit: 'cover' })
    .blur(0.7)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const pixels = turned.data;
  for (let i = 0; i < pixels.length; i++)
    pixels[i] = Math.max(0, Math.min(255, pixels[i] * 0.93 + 8 + 22 * noise()));
  return new Uint8Array(
    await sharp(pixels, {
      raw: { width: turned.info.width, height: turned.info.height, channels: turned.info.channels },
    })
      .jpeg({ quality: 62 })
      .withMetadata({ density: DPI })
      .toBuffer(),
  );
}
