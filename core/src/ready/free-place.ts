import type { Box } from '../geometry/index.ts';
import { MARGIN, TITLE_STRIP } from '../papers/index.ts';
import type { LaidPaper } from './laid-paper.ts';
import { CAPTION } from './title-block.ts';

/** Usual scales, the largest first: of metric drawings, and of those in feet and inches. */
const METRIC = [1, 2, 5, 10, 20, 25, 50, 75, 100, 125, 150, 200, 250, 500, 1000, 2000, 5000, 10000],
  IMPERIAL = [1, 2, 4, 8, 12, 16, 24, 32, 48, 64, 96, 128, 192, 240, 360, 480, 600, 1200, 2400, 12000];
/** Between views, millimetres of paper. */
const GAP = 6;

/** A view is not made more than so many times smaller than it would be alone, to find room beside others. */
const SMALLEST = 4;

/** Where a view of a size fits beside the others, and its scale: the largest usual one at which it does. Where it would be too small to read it lies over them, at the middle. `unit`: millimetres in one of the window. */
export function freePlace(
  laid: LaidPaper,
  size: readonly [number, number],
  unit: number,
  imperial: boolean,
): { scale: number; at: [number, number] } {
  const scales = imperial ? IMPERIAL : METRIC,
    room = roomOf(laid),
    [wide, high] = [size[0] * unit, size[1] * unit],
    least = Math.max(wide / (room[2] - room[0]), high / (room[3] - room[1])),
    alone = scales.find((s) => s >= least) ?? Math.ceil(least);
  for (const scale of scales) {
    if (scale > SMALLEST * alone) break;
    const at = placeFor(laid, [wide / scale, high / scale]);
    if (at) return { scale, at };
  }
  return {
    scale: alone,
    at: [(room[0] + room[2] - wide / alone) / 2, (room[1] + room[3] - high / alone) / 2],
  };
}

const roomOf = ({ width, height }: LaidPaper): Box => [
  MARGIN + GAP,
  MARGIN + TITLE_STRIP + CAPTION,
  width - MARGIN - GAP,
  height - MARGIN - GAP,
];

/** A free place, lower left corner: from the top down, from the left to the right, beside what is there. */
function placeFor(laid: LaidPaper, [w, h]: readonly [number, number]): [number, number] | null {
  const room = roomOf(laid),
    taken = laid.views.map(({ box }): Box => [
      box[0] - GAP,
      box[1] - CAPTION - GAP,
      box[2] + GAP,
      box[3] + CAPTION + GAP,
    ]);
  if (laid.views.length === 0)
    return w <= room[2] - room[0] && h <= room[3] - room[1]
      ? [(room[0] + room[2] - w) / 2, (room[1] + room[3] - h) / 2]
      : null;
  const lefts = [room[0], ...taken.map((b) => b[2])].sort((a, b) => a - b),
    tops = [room[3], ...taken.map((b) => b[1])].sort((a, b) => b - a);
  for (const top of tops)
    for (const left of lefts) {
      const box: Box = [left, top - h, left + w, top];
      if (box[2] > room[2] || box[1] < room[1]) continue;
      if (taken.every((t) => !overlaps(t, box))) return [box[0], box[1]];
    }
  return null;
}

/** Do two boxes share more than an edge? */
export const overlaps = (a: Box, b: Box) => a[0] < b[2] && a[2] > b[0] && a[1] < b[3] && a[3] > b[1];
