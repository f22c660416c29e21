import { grownBox, type Box } from '@calque/core/geometry';
import type { Linework } from '@calque/core/linework';
import type { Underlay } from '@calque/core/model';

/** Paper left around what is drawn, sheet points. */
const MARGIN = 9;
/** A frame runs along so much of the page, so near to its edge. */
const FRAME_SHARE = 0.7,
  FRAME_NEAR = 0.07;
const known = new WeakMap<Linework, Box | null>();

/** The box of all that is drawn on a page, sheet points; null where that is nothing, or a picture whose blank margins cannot be told. */
export function drawnBounds(l: Linework): Box | null {
  const before = known.get(l);
  if (before !== undefined) return before;
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  const take = (x: number, y: number, r = 0) => {
    if (x - r < box[0]) box[0] = x - r;
    if (y - r < box[1]) box[1] = y - r;
    if (x + r > box[2]) box[2] = x + r;
    if (y + r > box[3]) box[3] = y + r;
  };
  for (let i = 0; i < l.segments.length; i += 4) {
    if (isPageFrame(l, i)) continue;
    take(l.segments[i], l.segments[i + 1]);
    take(l.segments[i + 2], l.segments[i + 3]);
  }
  for (const ends of [l.fillEdges, l.curves])
    for (let i = 0; i < ends.length; i += 2) take(ends[i], ends[i + 1]);
  for (const [round, step] of [
    [l.arcs, 5],
    [l.circles, 3],
  ] as const)
    for (let i = 0; i < round.length; i += step) take(round[i], round[i + 1], round[i + 2]);
  for (const t of l.texts) take(t.x, t.y, t.height);
  const found = l.pictures.length === 0 && box[0] < box[2] && box[1] < box[3] ? box : null;
  known.set(l, found);
  return found;
}

/** A line along the edge of the page, near it and most of its length, frames the paper and is no part of what is drawn on it. */
function isPageFrame({ segments: s, width, height }: Linework, i: number): boolean {
  const [x0, y0, x1, y1] = [s[i], s[i + 1], s[i + 2], s[i + 3]];
  const along = (from: number, to: number, at: number, length: number, across: number) =>
    Math.abs(to - from) > FRAME_SHARE * length && Math.min(at, across - at) < FRAME_NEAR * across;
  return (
    (Math.abs(y1 - y0) < 0.5 && along(x0, x1, y0, width, height)) ||
    (Math.abs(x1 - x0) < 0.5 && along(y0, y1, x0, height, width))
  );
}

/** What of an underlay is worth seeing: its crop, without the blank paper around what is drawn. Sheet points. */
export function contentOf(u: Underlay, linework: Linework | null): Box {
  const drawn = linework && drawnBounds(linework);
  if (!drawn) return u.crop;
  const [x0, y0, x1, y1] = grownBox(drawn, MARGIN);
  const box: Box = [
    Math.max(u.crop[0], x0),
    Math.max(u.crop[1], y0),
    Math.min(u.crop[2], x1),
    Math.min(u.crop[3], y1),
  ];
  return box[0] < box[2] && box[1] < box[3] ? box : u.crop;
}
