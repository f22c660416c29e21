import { componentsOf } from '../components.ts';
import { inkMask } from '../ink-mask.ts';
import { sheetFromPixel, type Raster } from '../raster.ts';
import { chainsOf } from './chains.ts';
import { growLines, type InkGrid } from './grow.ts';
import { piecesOf } from './pieces.ts';
import { refine, type Refined } from './refine.ts';
import { thin } from './thin.ts';

/** A straight line read from ink: ends in sheet points, the width of its stroke and how far its ink strays from it, in points. */
export interface InkLine {
  from: readonly [number, number];
  to: readonly [number, number];
  width: number;
  rms: number;
}

/** Specks of fewer pixels are dirt. */
const SPECK = 6;

/** Ink with a frame of one empty pixel, as thinning needs it; specks are left out. */
export function framedInk(mask: Uint8Array, { width, height }: Pick<Raster, 'width' | 'height'>): InkGrid {
  const { runs, list } = componentsOf(mask, width, height);
  const framed = new Uint8Array((width + 2) * (height + 2));
  for (const component of list) {
    if (component.pixels < SPECK) continue;
    for (const run of component.runs)
      framed.fill(
        1,
        (runs[3 * run] + 1) * (width + 2) + runs[3 * run + 1] + 1,
        (runs[3 * run] + 1) * (width + 2) + runs[3 * run + 2] + 1,
      );
  }
  return { mask: framed, width: width + 2, height: height + 2 };
}

/** Reads the straight lines of a picture. */
export function inkLines(raster: Raster, progress: (share: number) => void = () => {}): InkLine[] {
  return straightLines(raster, framedInk(inkMask(raster), raster), progress).map((line) =>
    toInkLine(raster, line),
  );
}

export const toInkLine = (raster: Raster, { x, y, ux, uy, from, to, width, rms }: Refined): InkLine => ({
  from: sheetFromPixel(raster, x + from * ux, y + from * uy),
  to: sheetFromPixel(raster, x + to * ux, y + to * uy),
  width: width / raster.scale,
  rms: rms / raster.scale,
});

/** The same in pixels of the raster, those of at least `shortest` pixels. */
export function straightLines(
  raster: Raster,
  ink: InkGrid,
  progress: (share: number) => void = () => {},
  shortest = 0,
): Refined[] {
  progress(0.2);
  const thinned = thin(ink.mask, ink.width);
  progress(0.5);
  const pieces = piecesOf(chainsOf(thinned, ink.width), ink.width);
  progress(0.6);
  const grown = growLines(pieces, ink).filter((l) => l.to - l.from >= shortest);
  progress(0.8);
  // The frame shifts everything by one pixel.
  const lines = grown.map((line) => ({ ...line, x: line.x - 1, y: line.y - 1 }));
  const grid = unframed(ink);
  const refined = lines.map((line) => refine(line, raster, grid));
  progress(1);
  return refined;
}

function unframed({ mask, width, height }: InkGrid): InkGrid {
  const out = new Uint8Array((width - 2) * (height - 2));
  for (let y = 0; y < height - 2; y++)
    out.set(mask.subarray((y + 1) * width + 1, (y + 1) * width + width - 1), y * (width - 2));
  return { mask: out, width: width - 2, height: height - 2 };
}
