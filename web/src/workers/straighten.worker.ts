/// <reference lib="webworker" />
import type { FromStraighten, ToStraighten } from './straighten-protocol';

/** Draws a photo as it would be seen straight on: every pixel taken from between the four nearest of the photo. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromStraighten) => self.postMessage(message);

const BAND = 64;
const QUALITY = 0.93;
const BEYOND_THE_PHOTO = 255;

self.onmessage = async ({ data }: MessageEvent<ToStraighten>) => {
  try {
    say({ type: 'done', picture: await draw(data) });
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};

async function draw({ photo, photoFromPicture: h, width, height }: ToStraighten): Promise<Blob> {
  const source = new OffscreenCanvas(photo.width, photo.height).getContext('2d', {
    willReadFrequently: true,
  })!;
  source.drawImage(photo, 0, 0);
  const { data: from } = source.getImageData(0, 0, photo.width, photo.height);
  const canvas = new OffscreenCanvas(width, height),
    context = canvas.getContext('2d')!;
  for (let top = 0; top < height; top += BAND) {
    const rows = Math.min(BAND, height - top);
    const band = new ImageData(width, rows);
    const to = band.data;
    for (let r = 0; r < rows; r++) {
      const y = top + r + 0.5,
        px = h[1] * y + h[2],
        py = h[4] * y + h[5],
        pw = h[7] * y + h[8];
      for (let c = 0; c < width; c++) {
        const x = c + 0.5,
          w = 1 / (h[6] * x + pw);
        takePixel(
          from,
          photo.width,
          photo.height,
          (h[0] * x + px) * w - 0.5,
          (h[3] * x + py) * w - 0.5,
          to,
          4 * (r * width + c),
        );
      }
    }
    context.putImageData(band, 0, top);
    say({ type: 'progress', share: (top + rows) / height });
  }
  return canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
}

function takePixel(
  from: Uint8ClampedArray,
  width: number,
  height: number,
  x: number,
  y: number,
  to: Uint8ClampedArray,
  at: number,
): void {
  const x0 = Math.floor(x),
    y0 = Math.floor(y);
  to[at + 3] = 255;
  if (!(x0 >= 0 && y0 >= 0 && x0 < width - 1 && y0 < height - 1)) {
    to[at] = to[at + 1] = to[at + 2] = BEYOND_THE_PHOTO;
    return;
  }
  const u = x - x0,
    v = y - y0,
    i = 4 * (y0 * width + x0),
    below = i + 4 * width;
  for (let k = 0; k < 3; k++)
    to[at + k] =
      (1 - v) * ((1 - u) * from[i + k] + u * from[i + 4 + k]) +
      v * ((1 - u) * from[below + k] + u * from[below + 4 + k]);
}
