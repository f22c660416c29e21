import type { SheetPoint } from '../geometry/index.ts';

/**
 * A page as grey pixels, 0 black to 255 white, row by row from the top. Pixel (x, y) covers x to x + 1 and
 * y to y + 1: its middle is at half pixels. `scale`: pixels per sheet point.
 */
export interface Raster {
  width: number;
  height: number;
  grey: Uint8Array;
  scale: number;
}

/** A place in pixels (y down) as a place on the sheet (points, y up). */
export const sheetFromPixel = ({ height, scale }: Raster, x: number, y: number): SheetPoint => [
  x / scale,
  (height - y) / scale,
];

/** Grey between the four nearest pixels; beyond the edge the edge's own. */
export function greyAt({ width, height, grey }: Raster, x: number, y: number): number {
  const u = Math.min(width - 1, Math.max(0, x - 0.5)),
    v = Math.min(height - 1, Math.max(0, y - 0.5));
  const x0 = Math.floor(u),
    y0 = Math.floor(v),
    x1 = Math.min(width - 1, x0 + 1),
    y1 = Math.min(height - 1, y0 + 1);
  const fx = u - x0,
    fy = v - y0;
  return (
    (1 - fy) * ((1 - fx) * grey[y0 * width + x0] + fx * grey[y0 * width + x1]) +
    fy * ((1 - fx) * grey[y1 * width + x0] + fx * grey[y1 * width + x1])
  );
}

/** The luma of RGBA pixels (ITU-R BT.601) on white paper. */
export function greyFromRgba(
  rgba: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
  scale: number,
): Raster {
  const grey = new Uint8Array(width * height);
  for (let i = 0; i < grey.length; i++) {
    const k = 4 * i,
      alpha = rgba[k + 3] / 255;
    grey[i] = 255 + alpha * (0.299 * rgba[k] + 0.587 * rgba[k + 1] + 0.114 * rgba[k + 2] - 255);
  }
  return { width, height, grey, scale };
}
