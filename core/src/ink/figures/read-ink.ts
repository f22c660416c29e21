import Flatbush from 'flatbush';
import { componentsOf, type Components } from '../components.ts';
import { Crossings, marksOn } from '../lines/marks.ts';
import { inkOf, withFaintLines } from '../ink-mask.ts';
import { directionsOf } from '../lines/directions.ts';
import { eraseLines } from '../lines/erase.ts';
import { addFaintLines } from '../lines/faint-lines.ts';
import type { InkGrid } from '../lines/grow.ts';
import { framedInk, straightLines, toInkLine, type InkLine } from '../lines/ink-lines.ts';
import { strokeOf, type Refined } from '../lines/refine.ts';
import { sheetFromPixel, type Raster } from '../raster.ts';
import { textBlocks, type TextBlock } from './text-blocks.ts';

/** Lines at least this long are taken out before letters are looked for, millimetres of paper: no letter has such a stroke. */
const LONGEST_STROKE = 9;
/** Ink is a piece of a long line where so much of it lies within its stroke, give or take so many pixels to both sides. */
const PIECE_SHARE = 0.9,
  PIECE_SLACK = 0.75;
/** Only thin lines fall apart: so wide at most, pixels or millimetres of paper. */
const PIECE_WIDEST = 2.5,
  THICKEST_PIECE = 0.3;
/** Marks are looked for on lines that may be dimension lines: so long, so thin (millimetres of paper), so near to a text (its heights). */
const LEAST_DIMENSION = 3,
  THICKEST = 0.9,
  BESIDE = 3;

/** A dot that ends a dimension, sheet points. */
export interface InkDotOnSheet {
  at: readonly [number, number];
  r: number;
}

/** What was found on a picture before its texts are recognised. */
export interface InkReading {
  lines: InkLine[];
  /** Ticks and the edges of arrows on lines beside texts. */ marks: InkLine[];
  dots: InkDotOnSheet[];
  components: Components;
  blocks: TextBlock[];
}

export interface InkOptions {
  /** Pixels per millimetre of paper. */
  perMillimetre: number;
  /** Those of dimension lines as well; without them only long lines are read, by which letters are turned and freed. */
  marks: boolean;
  /** In which most of the sheet's lines run, radians counter-clockwise with y up: along these and square to them faint lines are looked for. */
  directions: readonly number[];
}

/** Reads lines and finds what may be texts. */
export function readInk(
  raster: Raster,
  { perMillimetre, marks, directions }: InkOptions,
  progress: (share: number) => void = () => {},
): InkReading {
  // On paper made even, as white everywhere as where it is brightest.
  const seen = inkOf(raster),
    { mask } = seen,
    even: Raster = { ...raster, grey: seen.relative };
  const faint = withFaintLines(seen, raster);
  addFaintLines(faint, seen.relative, raster, directions);
  const ink = framedInk(faint, raster);
  const refined = straightLines(
    even,
    ink,
    (share) => progress(0.8 * share),
    marks ? 0 : LONGEST_STROKE * perMillimetre,
  );
  const long = refined.filter((l) => l.to - l.from > LONGEST_STROKE * perMillimetre);
  const whole = withoutPieces(componentsOf(mask, raster.width, raster.height), raster, long, perMillimetre);
  const touching = freed(whole, raster, long, perMillimetre);
  const { components, blocks } = textBlocks(
    whole,
    touching,
    perMillimetre,
    directionsOf(refined.map(strokeOf)),
  );
  const crossings = new Crossings(marks ? refined : []);
  const beside = new Beside(marks ? blocks : []);
  const found = refined
    .filter(
      (l) =>
        l.to - l.from > LEAST_DIMENSION * perMillimetre &&
        l.width < THICKEST * perMillimetre &&
        beside.any(l),
    )
    .map((l) => marksOn(l, crossings, even, perMillimetre));
  progress(1);
  return {
    lines: refined.map((l) => toInkLine(raster, l)),
    components,
    blocks,
    marks: found
      .flatMap((f) => f.marks)
      .map(({ from, to }) => ({
        from: sheetFromPixel(raster, ...from),
        to: sheetFromPixel(raster, ...to),
        width: 0,
        rms: 0,
      })),
    dots: found
      .flatMap((f) => f.dots)
      .map(({ x, y, r }) => ({ at: sheetFromPixel(raster, x, y), r: r / raster.scale })),
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
    const [x0, y0, x1, y1] = [
      line.x + line.from * line.ux,
      line.y + line.from * line.uy,
      line.x + line.to * line.ux,
      line.y + line.to * line.uy,
    ];
    return (
      this.tree !== null &&
      this.tree
        .search(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1))
        .some((i) => isBeside(line, this.blocks[i]))
    );
  }
}

const reachOf = ({ length, height }: TextBlock) => length / 2 + BESIDE * height;

/** Could the line be what the text measures? */
function isBeside(line: Refined, block: TextBlock): boolean {
  const { x, y } = block,
    reach = reachOf(block);
  const along = (x - line.x) * line.ux + (y - line.y) * line.uy,
    off = Math.abs(-(x - line.x) * line.uy + (y - line.y) * line.ux);
  return off < reach && along > line.from - reach && along < line.to + reach;
}

/** Faint lines fall apart into pieces as large as letters: what lies on a long line is part of it. */
function withoutPieces(
  { runs, list }: Components,
  { width, height }: Raster,
  lines: readonly Refined[],
  perMillimetre: number,
): Components {
  const strokes = new Uint8Array(width * height);
  for (const l of lines) {
    if (l.width > Math.max(PIECE_WIDEST, THICKEST_PIECE * perMillimetre)) continue;
    const half = l.width / 2 + PIECE_SLACK;
    for (let t = l.from; t <= l.to; t += 0.5) {
      for (let v = -half; v <= half; v += 0.5) {
        const x = Math.floor(l.x + t * l.ux - v * l.uy),
          y = Math.floor(l.y + t * l.uy + v * l.ux);
        if (x >= 0 && y >= 0 && x < width && y < height) strokes[y * width + x] = 1;
      }
    }
  }
  return {
    runs,
    list: list.filter((c) => {
      let on = 0;
      for (const run of c.runs)
        for (let x = runs[3 * run + 1]; x < runs[3 * run + 2]; x++) on += strokes[runs[3 * run] * width + x];
      return on < PIECE_SHARE * c.pixels;
    }),
  };
}

/** What is left of large ink when its long lines are taken out: letters that touched a line among it. */
function freed(
  { runs, list }: Components,
  { width, height }: Raster,
  lines: readonly Refined[],
  perMillimetre: number,
): Components {
  const grid: InkGrid = { mask: new Uint8Array(width * height), width, height };
  for (const c of list) {
    if (Math.max(c.x1 - c.x0, c.y1 - c.y0) <= LONGEST_STROKE * perMillimetre) continue;
    for (const run of c.runs)
      grid.mask.fill(1, runs[3 * run] * width + runs[3 * run + 1], runs[3 * run] * width + runs[3 * run + 2]);
  }
  eraseLines(grid, lines);
  return componentsOf(grid.mask, width, height);
}
