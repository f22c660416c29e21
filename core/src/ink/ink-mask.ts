import { paperOf } from './paper.ts';
import type { Raster } from './raster.ts';

/**
 * Paper is measured in squares of so many pixels, and the brightest of so many to each side counts, so that filled walls are not
 * taken for paper; smaller and fewer ones where a shadow may fall across the sheet.
 */
export interface PaperSquares {
  square: number;
  around: number;
}
const FLAT: PaperSquares = { square: 48, around: 2 };
export const IN_SHADOW: PaperSquares = { square: 24, around: 1 };
/** However the histogram looks, ink is darker than this share of the paper's brightness and paper brighter than that. */
const DARKEST_LIMIT = 0.42,
  BRIGHTEST_LIMIT = 0.74;

/** 1 where there is ink: darker than a limit (Otsu 1979, on brightness relative to the paper around), which also serves grey and unevenly lit paper. */
export const inkMask = (raster: Raster, paper = FLAT): Uint8Array => inkOf(raster, paper).mask;

/** Brightness relative to the paper, 0 to 255, and what of it is ink. */
export function inkOf(raster: Raster, squares = FLAT): { relative: Uint8Array; mask: Uint8Array } {
  const { width, height, grey } = raster;
  const paper = paperBrightness(raster, squares),
    { square } = squares;
  const columns = Math.ceil(width / square);
  const relative = new Uint8Array(grey.length);
  const histogram = new Float64Array(256);
  for (let y = 0; y < height; y++) {
    const v = Math.min(Math.ceil(height / square) - 1, Math.max(0, y / square - 0.5)),
      v0 = Math.floor(v),
      fv = v - v0,
      v1 = Math.min(Math.ceil(height / square) - 1, v0 + 1);
    for (let x = 0; x < width; x++) {
      const u = Math.min(columns - 1, Math.max(0, x / square - 0.5)),
        u0 = Math.floor(u),
        fu = u - u0,
        u1 = Math.min(columns - 1, u0 + 1);
      const bright =
        (1 - fv) * ((1 - fu) * paper[v0 * columns + u0] + fu * paper[v0 * columns + u1]) +
        fv * ((1 - fu) * paper[v1 * columns + u0] + fu * paper[v1 * columns + u1]);
      const value = Math.min(255, (255 * grey[y * width + x]) / Math.max(1, bright));
      relative[y * width + x] = value;
      histogram[relative[y * width + x]]++;
    }
  }
  const limit = Math.min(255 * BRIGHTEST_LIMIT, Math.max(255 * DARKEST_LIMIT, otsu(histogram)));
  const mask = new Uint8Array(relative.length);
  for (let i = 0; i < relative.length; i++) mask[i] = relative[i] < limit ? 1 : 0;
  return { relative, mask };
}

/** Fainter than ink, a pixel still is of a thin line where it is darker than this, and darker by so much than what lies two pixels to both its sides. */
const FAINTEST = 0.86,
  RIDGE = 0.13;
/** Gaps in a line that is thinner than a pixel are so many pixels long at most, from each side. */
const GAP = 3;

/**
 * The ink with what is missing of thin lines: slanting lines thinner than a pixel lie on one pixel here and between two there, and fall
 * apart at any limit. From where they are ink they are followed along their ridge.
 */
export function withFaintLines(
  { relative, mask }: { relative: Uint8Array; mask: Uint8Array },
  { width, height }: Pick<Raster, 'width' | 'height'>,
): Uint8Array {
  const out = Uint8Array.from(mask),
    faintest = 255 * FAINTEST,
    deeper = 255 * RIDGE;
  const ridge = (at: number) =>
    [1, width, width + 1, width - 1].some(
      (d) =>
        relative[at] <= relative[at - d] &&
        relative[at] <= relative[at + d] &&
        relative[at] + deeper <= Math.min(relative[at - 2 * d], relative[at + 2 * d]),
    );
  let edge: number[] = [];
  for (let i = 0; i < mask.length; i++) if (mask[i]) edge.push(i);
  for (let round = 0; round < GAP; round++) {
    const next: number[] = [];
    for (const i of edge) {
      const x = i % width,
        y = (i - x) / width;
      if (x < 3 || y < 3 || x >= width - 3 || y >= height - 3) continue;
      for (const d of [-width - 1, -width, -width + 1, -1, 1, width - 1, width, width + 1]) {
        const k = i + d;
        if (out[k] || relative[k] >= faintest || !ridge(k)) continue;
        out[k] = 1;
        next.push(k);
      }
    }
    edge = next;
  }
  return out;
}

function paperBrightness({ width, height, grey }: Raster, { square, around }: PaperSquares): Float64Array {
  const columns = Math.ceil(width / square),
    rows = Math.ceil(height / square);
  const own = new Float64Array(columns * rows);
  const counts = new Uint32Array(256);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      counts.fill(0);
      const x1 = Math.min(width, (c + 1) * square),
        y1 = Math.min(height, (r + 1) * square);
      for (let y = r * square; y < y1; y++)
        for (let x = c * square; x < x1; x++) counts[grey[y * width + x]]++;
      own[r * columns + c] = paperOf(counts, (x1 - c * square) * (y1 - r * square));
    }
  }
  return own.map((_, i) => {
    const r = Math.floor(i / columns),
      c = i % columns;
    let most = 1;
    for (let v = Math.max(0, r - around); v <= Math.min(rows - 1, r + around); v++)
      for (let u = Math.max(0, c - around); u <= Math.min(columns - 1, c + around); u++)
        most = Math.max(most, own[v * columns + u]);
    return most;
  });
}

/** The limit that parts a histogram so that the variance between the two parts is largest. */
function otsu(histogram: Float64Array): number {
  const total = histogram.reduce((a, b) => a + b, 0),
    sum = histogram.reduce((s, n, v) => s + n * v, 0);
  let below = 0,
    sumBelow = 0,
    best = 0,
    limit = 128;
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
