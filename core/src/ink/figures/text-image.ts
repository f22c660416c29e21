import type { Components } from '../components.ts';
import type { Raster } from '../raster.ts';
import type { TextBlock } from './text-blocks.ts';

/** Glyphs are handed to recognition this high, pixels, with this much white around. */
const HEIGHT = 40,
  MARGIN = 20;
/** Ink of others keeps this much to its sides as its own soft edge, pixels; and around a member nothing else is, so far. */
const EDGE = 1,
  OWN_EDGE = 1;
/** What belongs to a text stands within so many heights of its row's box: points and primes that are too faint to be ink. */
const ROOM = 0.3;
/** Ink smaller than this, in heights of the letters, is a point or dirt. */
const SPECK = 0.35;

/** A grey picture of a text, upright, with nothing but the text on it. */
export interface TextImage {
  width: number;
  height: number;
  grey: Uint8Array;
}

/** For each pixel the component that covers it, or -1. */
export function ownersOf({ runs, list }: Components, { width, height }: Raster): Int32Array {
  const owner = new Int32Array(width * height).fill(-1);
  list.forEach((c, i) => {
    for (const r of c.runs)
      owner.fill(i, runs[3 * r] * width + runs[3 * r + 1], runs[3 * r] * width + runs[3 * r + 2]);
  });
  return owner;
}

/** Draws a block alone and upright, `turned` half a turn where it may stand on its head. What others drew is paper; what is too faint to be ink stays as it is. */
export function textImage(
  raster: Raster,
  { runs, list }: Components,
  owner: Int32Array,
  block: TextBlock,
  turned = false,
): TextImage {
  const own = new Set(block.members),
    near = new Set<number>();
  let darkest = 255,
    brightest = 0;
  for (const member of block.members) {
    for (const run of list[member].runs) {
      const y = runs[3 * run];
      for (let v = y - OWN_EDGE; v <= y + OWN_EDGE; v++) {
        for (let x = runs[3 * run + 1] - OWN_EDGE; x < runs[3 * run + 2] + OWN_EDGE; x++) {
          if (x < 0 || v < 0 || x >= raster.width || v >= raster.height) continue;
          near.add(v * raster.width + x);
          const grey = raster.grey[v * raster.width + x];
          darkest = Math.min(darkest, grey);
          brightest = Math.max(brightest, grey);
        }
      }
    }
  }
  const k = HEIGHT / block.height,
    radians = block.radians + (turned ? Math.PI : 0);
  const width = Math.ceil(block.length * k) + 2 * MARGIN,
    height = Math.ceil(1.5 * HEIGHT) + 2 * MARGIN;
  const ux = Math.cos(radians),
    uy = -Math.sin(radians);
  // A speck may be a point that is too small for a mark: it stays.
  const foreign = foreignInk(
    raster,
    owner,
    (c) => own.has(c) || Math.max(list[c].x1 - list[c].x0, list[c].y1 - list[c].y0) < SPECK * block.height,
    near,
    block,
  );
  const inRow = (a: number, v: number) =>
    Math.abs(v) < (0.5 + ROOM) * block.height && Math.abs(a) < block.length / 2 + ROOM * block.height;
  const grey = new Uint8Array(width * height).fill(255);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const a = (x + 0.5 - width / 2) / k,
        v = (y + 0.5 - height / 2) / k;
      const value = inRow(a, v)
        ? between(raster, foreign, block.x + a * ux - v * uy, block.y + a * uy + v * ux, brightest)
        : brightest;
      // Stretched to full contrast.
      grey[y * width + x] = Math.max(
        0,
        Math.min(255, (255 * (value - darkest)) / Math.max(1, brightest - darkest)),
      );
    }
  }
  return { width, height, grey };
}

/** Pixels around a block that others drew, with their soft edges, but not where a member stands as near. */
function foreignInk(
  { width, height }: Raster,
  owner: Int32Array,
  belongs: (component: number) => boolean,
  near: ReadonlySet<number>,
  block: TextBlock,
): Set<number> {
  const out = new Set<number>(),
    r = Math.ceil(block.length / 2 + block.height);
  const x0 = Math.max(0, Math.floor(block.x - r)),
    x1 = Math.min(width - 1, Math.ceil(block.x + r)),
    y0 = Math.max(0, Math.floor(block.y - r)),
    y1 = Math.min(height - 1, Math.ceil(block.y + r));
  for (let y = y0; y <= y1; y++) {
    for (let x = x0; x <= x1; x++) {
      const whose = owner[y * width + x];
      if (whose < 0 || belongs(whose)) continue;
      for (let v = Math.max(0, y - EDGE); v <= Math.min(height - 1, y + EDGE); v++)
        for (let u = Math.max(0, x - EDGE); u <= Math.min(width - 1, x + EDGE); u++)
          if (!near.has(v * width + u) || (u === x && v === y)) out.add(v * width + u);
    }
  }
  return out;
}

/** Grey at a place between the sixteen nearest pixels (Catmull and Rom 1974), with paper wherever others drew. */
function between(
  { width, height, grey }: Raster,
  foreign: ReadonlySet<number>,
  x: number,
  y: number,
  paper: number,
): number {
  const u = Math.floor(x - 0.5),
    v = Math.floor(y - 0.5),
    fx = x - 0.5 - u,
    fy = y - 0.5 - v;
  const wx = weights(fx),
    wy = weights(fy);
  let sum = 0;
  for (let j = 0; j < 4; j++) {
    const py = Math.min(height - 1, Math.max(0, v + j - 1));
    for (let i = 0; i < 4; i++) {
      const at = py * width + Math.min(width - 1, Math.max(0, u + i - 1));
      sum += wx[i] * wy[j] * (foreign.has(at) ? paper : grey[at]);
    }
  }
  return sum;
}

const weights = (t: number): readonly [number, number, number, number] => [
  (((2 - t) * t - 1) * t) / 2,
  ((3 * t - 5) * t * t + 2) / 2,
  (((4 - 3 * t) * t + 1) * t) / 2,
  ((t - 1) * t * t) / 2,
];
