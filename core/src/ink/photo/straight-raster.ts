import type { Homography, Point } from '../../geometry/index.ts';
import { beside, paperOf } from '../paper.ts';
import { greyAt, type Raster } from '../raster.ts';

/** How a photo at a slant shows a sheet. */
export interface PhotoPlane {
  /** Takes pixels of the straightened picture (y down) to pixels of the photo (y down). */
  photoFromPicture: Homography;
  /** Size of the straightened picture, pixels. */
  width: number;
  height: number;
  /** The sheet's outline on the photo, pixels; null where all of it is paper. */
  outline: Point[] | null;
  /** How far a place at the edge of the photo may be off by the straightening (a standard deviation), pixels of the photo; its width against its height aside. */
  sigma: number;
}

/** What lies beyond the sheet is drawn as the paper nearest to it, measured in squares of this many pixels. */
const SQUARE = 32;

/** The photo as it is seen straight on: each pixel from between the four nearest; the table is painted over as paper goes on. `scale`: pixels per point of the picture. */
export function straightRaster(
  photo: Raster,
  { photoFromPicture: h, width, height, outline }: PhotoPlane,
  scale: number,
): Raster {
  const grey = new Uint8Array(width * height),
    inside = new Uint8Array(width * height);
  const spans = outline && spansOf(outline, photo.height);
  for (let y = 0; y < height; y++) {
    const v = y + 0.5,
      px = h[1] * v + h[2],
      py = h[4] * v + h[5],
      pw = h[7] * v + h[8];
    for (let x = 0; x < width; x++) {
      const u = x + 0.5,
        w = 1 / (h[6] * u + pw),
        fx = (h[0] * u + px) * w,
        fy = (h[3] * u + py) * w;
      if (!(fx >= 0 && fy >= 0 && fx < photo.width && fy < photo.height)) continue;
      if (spans && !(fx >= spans[2 * Math.floor(fy)] && fx < spans[2 * Math.floor(fy) + 1])) continue;
      const i = y * width + x;
      grey[i] = greyAt(photo, fx, fy);
      inside[i] = 1;
    }
  }
  paintBeyond(grey, inside, width, height);
  return { width, height, grey, scale };
}

/** The picture with nothing but the sheet on it: the table around it painted over as paper goes on. */
export function sheetAlone(photo: Raster, outline: readonly Point[]): Raster {
  const { width, height } = photo,
    grey = Uint8Array.from(photo.grey),
    inside = new Uint8Array(grey.length),
    spans = spansOf(outline, height);
  for (let y = 0; y < height; y++)
    inside.fill(
      1,
      y * width + Math.min(width, Math.max(0, Math.ceil(spans[2 * y]))),
      y * width + Math.min(width, Math.max(0, Math.floor(spans[2 * y + 1]))),
    );
  paintBeyond(grey, inside, width, height);
  return { ...photo, grey };
}

/** The photo at a half of its size with nothing but the sheet on it: enough to see by what perspective its lines run. */
export function halfOf({ width, height, grey, scale }: Raster, outline: readonly Point[] | null): Raster {
  const w = Math.floor(width / 2),
    h = Math.floor(height / 2),
    half = new Uint8Array(w * h),
    inside = new Uint8Array(w * h);
  const spans = outline && spansOf(outline, height);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      half[y * w + x] = (grey[i] + grey[i + 1] + grey[i + width] + grey[i + width + 1] + 2) >> 2;
      inside[y * w + x] = !spans || (2 * x >= spans[4 * y] && 2 * x + 1 < spans[4 * y + 1]) ? 1 : 0;
    }
  }
  paintBeyond(half, inside, w, h);
  return { width: w, height: h, grey: half, scale: scale / 2 };
}

/** For each row of pixels where a convex ring begins and ends. */
function spansOf(ring: readonly Point[], height: number): Float64Array {
  const spans = new Float64Array(2 * height);
  for (let y = 0; y < height; y++) {
    let from = Infinity,
      to = -Infinity;
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      if (p[1] <= y + 0.5 === q[1] <= y + 0.5) return;
      const x = p[0] + ((y + 0.5 - p[1]) / (q[1] - p[1])) * (q[0] - p[0]);
      from = Math.min(from, x);
      to = Math.max(to, x);
    });
    // Rows that the ring does not reach are outside from end to end.
    spans[2 * y] = from <= to ? from : 0;
    spans[2 * y + 1] = from <= to ? to : 0;
  }
  return spans;
}

function paintBeyond(grey: Uint8Array, inside: Uint8Array, width: number, height: number): void {
  const columns = Math.ceil(width / SQUARE),
    rows = Math.ceil(height / SQUARE),
    paper = new Float64Array(columns * rows).fill(-1),
    counts = new Uint32Array(256);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      counts.fill(0);
      let all = 0;
      for (let y = r * SQUARE; y < Math.min(height, (r + 1) * SQUARE); y++)
        for (let x = c * SQUARE; x < Math.min(width, (c + 1) * SQUARE); x++)
          if (inside[y * width + x]) {
            counts[grey[y * width + x]]++;
            all++;
          }
      if (all < (SQUARE * SQUARE) / 4) continue;
      paper[r * columns + c] = paperOf(counts, all);
    }
  // Paper spreads from square to square until all are covered.
  let edge = [...paper.keys()].filter((i) => paper[i] >= 0);
  if (edge.length === 0) return;
  while (edge.length > 0) {
    const next: number[] = [];
    for (const i of edge) {
      for (const n of beside(i, columns, paper.length)) {
        if (paper[n] >= 0) continue;
        paper[n] = paper[i];
        next.push(n);
      }
    }
    edge = next;
  }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (!inside[y * width + x])
        grey[y * width + x] = paper[Math.floor(y / SQUARE) * columns + Math.floor(x / SQUARE)];
}
