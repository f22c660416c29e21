import Flatbush from 'flatbush';
import { componentsOf, type Components } from '../components.ts';
import { Crossings, marksOn } from '../lines/marks.ts';
import { inkOf, withFaintLines } from '../ink-mask.ts';
import { eraseLines } from '../lines/erase.ts';
import type { InkGrid } from '../lines/grow.ts';
import { framedInk, straightLines, toInkLine, type InkLine } from '../lines/ink-lines.ts';
import type { Refined } from '../lines/refine.ts';
import { sheetFromPixel, type Raster } from '../raster.ts';
import { textBlocks, type TextBlock } from './text-blocks.ts';

/** Lines at least this long are taken out before letters are looked for, millimetres of paper: no letter has such a stroke. */
const LONGEST_STROKE = 9;
/** Directions that hold at least this share of all line length, long lines counting more. */
const LEAST_SHARE = 0.05;
/** Marks are looked for on lines that may be dimension lines: so long, so thin (millimetres of paper), so near to a text (its heights). */
const LEAST_DIMENSION = 3, THICKEST = 0.9, BESIDE = 3;
const TURN_STEP = Math.PI / 720;

/** A dot that ends a dimension, sheet points. */
export interface InkDotOnSheet { at: readonly [number, number]; r: number }

/** What was found on a picture before its texts are recognised. */
export interface InkReading { lines: InkLine[]; /** Ticks and the edges of arrows on lines beside texts. */ marks: InkLine[]; dots: InkDotOnSheet[]; components: Components; blocks: TextBlock[] }

/**
 * Reads lines and finds what may be texts. `perMillimetre`: pixels per millimetre of paper; `marks`: those of dimension
 * lines as well; without them only long lines are read, by which letters are turned and freed.
 */
export function readInk(raster: Raster, perMillimetre: number, progress: (share: number) => void = () => {}, marks = true): InkReading {
  const seen = inkOf(raster), { mask } = seen;
  const ink = framedInk(withFaintLines(seen, raster), raster);
  const refined = straightLines(raster, ink, (share) => progress(0.8 * share), marks ? 0 : LONGEST_STROKE * perMillimetre);
  const whole = componentsOf(mask, raster.width, raster.height);
  const touching = freed(whole, raster, refined.filter((l) => l.to - l.from > LONGEST_STROKE * perMillimetre), perMillimetre);
  const { components, blocks } = textBlocks(whole, touching, perMillimetre, directionsOf(refined));
  const crossings = new Crossings(marks ? refined : []);
  const beside = new Beside(marks ? blocks : []);
  const found = refined.filter((l) => l.to - l.from > LEAST_DIMENSION * perMillimetre && l.width < THICKEST * perMillimetre && beside.any(l)).map((l) => marksOn(l, crossings, raster, perMillimetre));
  progress(1);
  return {
    lines: refined.map((l) => toInkLine(raster, l)), components, blocks,
    marks: found.flatMap((f) => f.marks).map(({ from, to }) => ({ from: sheetFromPixel(raster, ...from), to: sheetFromPixel(raster, ...to), width: 0, rms: 0 })),
    dots: found.flatMap((f) => f.dots).map(({ x, y, r }) => ({ at: sheetFromPixel(raster, x, y), r: r / raster.scale })),
  };
}

/** Texts found by place: is there one that a line might be the dimension line of? */
class Beside {
  private readonly tree: Flatbush | null;
  constructor(private readonly blocks: readonly TextBlock[]) {
    this.tree = blocks.length === 0 ? null : new Flatbush(blocks.length, 16, Float32Array);
    for (const b of blocks) {
      const r = reachOf(b);
      this.tree!.add(b.x - r, b.y - r, b.x + r, b.y + r);
    }
    this.tree?.finish();
  }

  any(line: Refined): boolean {
    const [x0, y0, x1, y1] = [line.x + line.from * line.ux, line.y + line.from * line.uy, line.x + line.to * line.ux, line.y + line.to * line.uy];
    return this.tree !== null && this.tree.search(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)).some((i) => isBeside(line, this.blocks[i]));
  }
}

const reachOf = ({ length, height }: TextBlock) => length / 2 + BESIDE * height;

/** Could the line be what the text measures? */
function isBeside(line: Refined, block: TextBlock): boolean {
  const { x, y } = block, reach = reachOf(block);
  const along = (x - line.x) * line.ux + (y - line.y) * line.uy, off = Math.abs(-(x - line.x) * line.uy + (y - line.y) * line.ux);
  return off < reach && along > line.from - reach && along < line.to + reach;
}

/** What is left of large ink when its long lines are taken out: letters that touched a line among it. */
function freed({ runs, list }: Components, { width, height }: Raster, lines: readonly Refined[], perMillimetre: number): Components {
  const grid: InkGrid = { mask: new Uint8Array(width * height), width, height };
  for (const c of list) {
    if (Math.max(c.x1 - c.x0, c.y1 - c.y0) <= LONGEST_STROKE * perMillimetre) continue;
    for (const run of c.runs) grid.mask.fill(1, runs[3 * run] * width + runs[3 * run + 1], runs[3 * run] * width + runs[3 * run + 2]);
  }
  eraseLines(grid, lines);
  return componentsOf(grid.mask, width, height);
}

/** The directions that most of the sheet's lines run in, radians counter-clockwise with y up, each and what is square to it once. */
function directionsOf(lines: readonly Refined[]): number[] {
  const bins = new Float64Array(Math.round(Math.PI / 2 / TURN_STEP));
  let total = 0;
  for (const l of lines) {
    const turn = Math.atan2(-l.uy, l.ux), length = (l.to - l.from) ** 2;
    const k = Math.round(turn / TURN_STEP);
    bins[((k % bins.length) + bins.length) % bins.length] += length;
    total += length;
  }
  const at = (k: number) => bins[(k + bins.length) % bins.length];
  const out: number[] = [];
  bins.forEach((_, k) => {
    const sum = at(k - 1) + at(k) + at(k + 1);
    if (sum < LEAST_SHARE * total || at(k) < at(k - 1) || at(k) <= at(k + 1)) return;
    out.push(((at(k + 1) - at(k - 1)) / sum + k) * TURN_STEP);
  });
  return out;
}
