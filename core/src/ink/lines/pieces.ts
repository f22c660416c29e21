import type { Chain } from './chains.ts';
import { addPoint, axisOf, noSums, type Sums } from './straight.ts';

/** A straight piece of a thinned stroke: its pixels' sums, and its ends along its own axis, pixels. */
export interface Piece {
  sums: Sums;
  a: readonly [number, number];
  b: readonly [number, number];
  length: number;
}

/** A stroke bends where its pixels leave the chord by more than this. */
const BEND = 1.25;
/** Fewer pixels say no direction. */
const LEAST_PIXELS = 3;
const WORST_SPREAD = 0.75;

/** Cuts chains where they bend (Ramer 1972, Douglas and Peucker 1973) into straight pieces. */
export function piecesOf(chains: readonly Chain[], width: number): Piece[] {
  const pieces: Piece[] = [];
  for (const chain of chains) {
    if (chain.length < LEAST_PIXELS) continue;
    const stack: [number, number][] = [[0, chain.length - 1]];
    while (stack.length > 0) {
      const [i, k] = stack.pop()!;
      if (k - i + 1 < LEAST_PIXELS) continue;
      const at = bendOf(chain, i, k, width);
      if (at < 0) {
        const piece = pieceOf(chain, i, k, width);
        if (piece) pieces.push(piece);
      } else stack.push([i, at], [at, k]);
    }
  }
  return pieces;
}

const place = (pixel: number, width: number): [number, number] => [
  (pixel % width) + 0.5,
  Math.floor(pixel / width) + 0.5,
];

function bendOf(chain: Chain, i: number, k: number, width: number): number {
  const [x0, y0] = place(chain[i], width),
    [x1, y1] = place(chain[k], width);
  const dx = x1 - x0,
    dy = y1 - y0,
    length = Math.hypot(dx, dy);
  let worst = BEND,
    at = -1;
  for (let m = i + 1; m < k; m++) {
    const [x, y] = place(chain[m], width);
    const off = length < 1e-9 ? Math.hypot(x - x0, y - y0) : Math.abs(dx * (y - y0) - dy * (x - x0)) / length;
    if (off > worst) {
      worst = off;
      at = m;
    }
  }
  return at;
}

function pieceOf(chain: Chain, i: number, k: number, width: number): Piece | null {
  const sums = noSums();
  for (let m = i; m <= k; m++) addPoint(sums, ...place(chain[m], width));
  const { x, y, ux, uy, rms } = axisOf(sums);
  if (rms > WORST_SPREAD) return null;
  const along = (pixel: number) => {
    const [px, py] = place(pixel, width);
    return (px - x) * ux + (py - y) * uy;
  };
  const [s, e] = [along(chain[i]), along(chain[k])];
  return { sums, a: [x + s * ux, y + s * uy], b: [x + e * ux, y + e * uy], length: Math.abs(e - s) };
}
