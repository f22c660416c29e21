import type { Raster } from './raster.ts';

/** Paper is measured in squares of this many pixels; the brightest around a square counts, so that filled walls are not taken for paper. */
const SQUARE = 48;
const BRIGHT_SHARE = 0.8;
const AROUND = 2;
/** However the histogram looks, ink is darker than this share of the paper's brightness and paper brighter than that. */
const DARKEST_LIMIT = 0.42, BRIGHTEST_LIMIT = 0.74;

/** 1 where there is ink: darker than a limit (Otsu 1979, on brightness relative to the paper around), which also serves grey and unevenly lit paper. */
export function inkMask(raster: Raster): Uint8Array {
  const { width, height, grey } = raster;
  const paper = paperBrightness(raster);
  const columns = Math.ceil(width / SQUARE);
  const relative = new Uint8Array(grey.length);
  const histogram = new Float64Array(256);
  for (let y = 0; y < height; y++) {
    const v = Math.min(Math.ceil(height / SQUARE) - 1, Math.max(0, y / SQUARE - 0.5)), v0 = Math.floor(v), fv = v - v0, v1 = Math.min(Math.ceil(height / SQUARE) - 1, v0 + 1);
    for (let x = 0; x < width; x++) {
      const u = Math.min(columns - 1, Math.max(0, x / SQUARE - 0.5)), u0 = Math.floor(u), fu = u - u0, u1 = Math.min(columns - 1, u0 + 1);
      const bright = (1 - fv) * ((1 - fu) * paper[v0 * columns + u0] + fu * paper[v0 * columns + u1]) + fv * ((1 - fu) * paper[v1 * columns + u0] + fu * paper[v1 * columns + u1]);
      const value = Math.min(255, (255 * grey[y * width + x]) / Math.max(1, bright));
      relative[y * width + x] = value;
      histogram[relative[y * width + x]]++;
    }
  }
  const limit = Math.min(255 * BRIGHTEST_LIMIT, Math.max(255 * DARKEST_LIMIT, otsu(histogram)));
  for (let i = 0; i < relative.length; i++) relative[i] = relative[i] < limit ? 1 : 0;
  return relative;
}

function paperBrightness({ width, height, grey }: Raster): Float64Array {
  const columns = Math.ceil(width / SQUARE), rows = Math.ceil(height / SQUARE);
  const own = new Float64Array(columns * rows);
  const counts = new Uint32Array(256);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      counts.fill(0);
      const x1 = Math.min(width, (c + 1) * SQUARE), y1 = Math.min(height, (r + 1) * SQUARE);
      for (let y = r * SQUARE; y < y1; y++) for (let x = c * SQUARE; x < x1; x++) counts[grey[y * width + x]]++;
      let left = BRIGHT_SHARE * (x1 - c * SQUARE) * (y1 - r * SQUARE), value = 0;
      while (value < 255 && (left -= counts[value]) > 0) value++;
      own[r * columns + c] = value;
    }
  }
  return own.map((_, i) => {
    const r = Math.floor(i / columns), c = i % columns;
    let most = 1;
    for (let v = Math.max(0, r - AROUND); v <= Math.min(rows - 1, r + AROUND); v++) for (let u = Math.max(0, c - AROUND); u <= Math.min(columns - 1, c + AROUND); u++) most = Math.max(most, own[v * columns + u]);
    return most;
  });
}

/** The limit that parts a histogram so that the variance between the two parts is largest. */
function otsu(histogram: Float64Array): number {
  const total = histogram.reduce((a, b) => a + b, 0), sum = histogram.reduce((s, n, v) => s + n * v, 0);
  let below = 0, sumBelow = 0, best = 0, limit = 128;
  for (let v = 0; v < 255; v++) {
    below += histogram[v];
    sumBelow += v * histogram[v];
    if (below === 0 || below === total) continue;
    const between = below * (total - below) * (sumBelow / below - (sum - sumBelow) / (total - below)) ** 2;
    if (between > best) {
      best = between;
      limit = v + 1;
    }
  }
  return limit;
}
