import type { Components } from '../components.ts';
import { greyAt, type Raster } from '../raster.ts';
import type { TextBlock } from './text-blocks.ts';

/** Glyphs are handed to recognition this high, pixels, with this much white around. */
const HEIGHT = 40, MARGIN = 20;
/** Ink beside a member that still is its own soft edge, pixels. */
const EDGE = 1;

/** A grey picture of a text, upright, with nothing but the text on it. */
export interface TextImage { width: number; height: number; grey: Uint8Array }

/** Draws a block alone and upright, `turned` half a turn where it may stand on its head. */
export function textImage(raster: Raster, { runs, list }: Components, block: TextBlock, turned = false): TextImage {
  const own = new Set<number>();
  let darkest = 255, brightest = 0;
  for (const member of block.members) {
    for (const run of list[member].runs) {
      const y = runs[3 * run];
      for (let x = runs[3 * run + 1] - EDGE; x < runs[3 * run + 2] + EDGE; x++) {
        for (let v = y - EDGE; v <= y + EDGE; v++) {
          if (x < 0 || v < 0 || x >= raster.width || v >= raster.height) continue;
          own.add(v * raster.width + x);
          const grey = raster.grey[v * raster.width + x];
          darkest = Math.min(darkest, grey);
          brightest = Math.max(brightest, grey);
        }
      }
    }
  }
  const k = HEIGHT / block.height, radians = block.radians + (turned ? Math.PI : 0);
  const width = Math.ceil(block.length * k) + 2 * MARGIN, height = Math.ceil(1.5 * HEIGHT) + 2 * MARGIN;
  const ux = Math.cos(radians), uy = -Math.sin(radians);
  const grey = new Uint8Array(width * height).fill(255);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const a = (x + 0.5 - width / 2) / k, v = (y + 0.5 - height / 2) / k;
      const px = block.x + a * ux - v * uy, py = block.y + a * uy + v * ux;
      const value = masked(raster, own, px, py, brightest);
      // Stretched to full contrast.
      grey[y * width + x] = Math.max(0, Math.min(255, (255 * (value - darkest)) / Math.max(1, brightest - darkest)));
    }
  }
  return { width, height, grey };
}

/** Grey at a place, with paper wherever no member of the text lies. */
function masked(raster: Raster, own: ReadonlySet<number>, x: number, y: number, paper: number): number {
  const u = Math.floor(x - 0.5), v = Math.floor(y - 0.5);
  let any = 0;
  for (const [du, dv] of [[0, 0], [1, 0], [0, 1], [1, 1]]) if (own.has((v + dv) * raster.width + u + du)) any++;
  if (any === 0) return paper;
  if (any === 4) return greyAt(raster, x, y);
  const fx = x - 0.5 - u, fy = y - 0.5 - v;
  const at = (i: number, k: number) => (own.has((v + k) * raster.width + u + i) ? raster.grey[(v + k) * raster.width + u + i] : paper);
  return (1 - fy) * ((1 - fx) * at(0, 0) + fx * at(1, 0)) + fy * ((1 - fx) * at(0, 1) + fx * at(1, 1));
}
