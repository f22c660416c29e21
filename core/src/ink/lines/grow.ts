import Flatbush from 'flatbush';
import type { Piece } from './pieces.ts';
import { axisOf, joined, type Sums } from './straight.ts';

/** Ink as a grid of set pixels. */
export interface InkGrid {
  mask: Uint8Array;
  width: number;
  height: number;
}

/** A line grown from pieces: its axis and how far its ink reaches along it, pixels. */
export interface Grown {
  x: number;
  y: number;
  ux: number;
  uy: number;
  rms: number;
  from: number;
  to: number;
}

/** A piece joins where both its ends lie this near the axis, and all together stay this straight. */
const OFF = 1.35,
  SPREAD = 0.8;
/** How far the ink is followed at once beyond what is sure; what is wider than a crossing stroke brings nothing new. */
const WALK = 90;
const LEAST_LENGTH = 5;

/**
 * Joins straight pieces into lines through the junctions that cut them: a piece joins where the ink goes on
 * without a gap along the axis and it lies on the axis itself. The longest begin, each piece is used once.
 */
export function growLines(pieces: readonly Piece[], ink: InkGrid): Grown[] {
  if (pieces.length === 0) return [];
  const tree = new Flatbush(pieces.length, 16, Float32Array);
  for (const { a, b } of pieces)
    tree.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]));
  tree.finish();
  const used = new Uint8Array(pieces.length);
  const order = pieces.map((_, i) => i).sort((i, k) => pieces[k].length - pieces[i].length);
  const lines: Grown[] = [];
  for (const seed of order) {
    if (used[seed]) continue;
    used[seed] = 1;
    let sums = pieces[seed].sums,
      members = [seed];
    let line = lineOf(
      sums,
      members.map((i) => pieces[i]),
    );
    for (const side of [1, -1] as const) {
      for (;;) {
        const reach = walkInk(line, side, ink);
        const next = nextPiece(line, side, reach, pieces, tree, used, sums);
        if (next < 0) {
          if (side > 0) line.to = Math.max(line.to, reach);
          else line.from = Math.min(line.from, reach);
          break;
        }
        used[next] = 1;
        sums = joined(sums, pieces[next].sums);
        members = [...members, next];
        line = lineOf(
          sums,
          members.map((i) => pieces[i]),
        );
      }
    }
    if (line.to - line.from >= LEAST_LENGTH) lines.push(line);
  }
  return lines;
}

function lineOf(sums: Sums, members: readonly Piece[]): Grown {
  const axis = axisOf(sums);
  let from = Infinity,
    to = -Infinity;
  for (const { a, b } of members) {
    for (const [x, y] of [a, b]) {
      const t = (x - axis.x) * axis.ux + (y - axis.y) * axis.uy;
      from = Math.min(from, t);
      to = Math.max(to, t);
    }
  }
  return { ...axis, from, to };
}

/** How far along the axis there is ink without a gap, beyond the line's end on one side. */
function walkInk(line: Grown, side: 1 | -1, { mask, width, height }: InkGrid): number {
  const start = side > 0 ? line.to : line.from;
  const set = (x: number, y: number) =>
    x >= 0 && y >= 0 && x < width && y < height && mask[Math.floor(y) * width + Math.floor(x)] === 1;
  let t = start;
  for (let k = 0; k < WALK; k++) {
    const next = t + side * 0.5,
      x = line.x + next * line.ux,
      y = line.y + next * line.uy;
    if (!set(x, y)) break;
    t = next;
  }
  return t;
}

function nextPiece(
  line: Grown,
  side: 1 | -1,
  reach: number,
  pieces: readonly Piece[],
  tree: Flatbush,
  used: Uint8Array,
  sums: Sums,
): number {
  const end = side > 0 ? line.to : line.from;
  const p = [line.x + end * line.ux, line.y + end * line.uy],
    q = [line.x + (reach + side) * line.ux, line.y + (reach + side) * line.uy];
  let best = -1,
    nearest = Infinity;
  for (const i of tree.search(
    Math.min(p[0], q[0]) - OFF,
    Math.min(p[1], q[1]) - OFF,
    Math.max(p[0], q[0]) + OFF,
    Math.max(p[1], q[1]) + OFF,
  )) {
    if (used[i]) continue;
    const { a, b } = pieces[i];
    const off = (e: readonly number[]) => Math.abs(-(e[0] - line.x) * line.uy + (e[1] - line.y) * line.ux);
    const along = (e: readonly number[]) =>
      side * ((e[0] - line.x) * line.ux + (e[1] - line.y) * line.uy - end);
    const near = Math.min(along(a), along(b)),
      far = Math.max(along(a), along(b));
    // A short line does not know its own direction well: what joins may lie off a little more the farther it reaches.
    const slack = OFF + (0.6 * far) / Math.max(4, line.to - line.from);
    if (
      near < -2 ||
      far <= 0 ||
      near > Math.abs(reach - end) + 1 ||
      Math.max(off(a), off(b)) > Math.min(slack, 2 * OFF) ||
      near >= nearest
    )
      continue;
    const together = axisOf(joined(sums, pieces[i].sums));
    const offTogether = (e: readonly number[]) =>
      Math.abs(-(e[0] - together.x) * together.uy + (e[1] - together.y) * together.ux);
    if (together.rms > SPREAD || Math.max(offTogether(a), offTogether(b)) > OFF) continue;
    best = i;
    nearest = near;
  }
  return best;
}
