import Flatbush from 'flatbush';
import { cubicBox } from '../geometry/index.ts';
import { asCubic } from '../linework/collector.ts';
import { STRIDE, type Linework } from '../linework/types.ts';

/** What the index holds, in this order; an item's number is its place in the joined list. */
export const ITEM_KINDS = ['segment', 'fillEdge', 'arc', 'circle', 'curve', 'arcCentre', 'circleCentre'] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

/** First number of each kind, and the total behind the last. */
export function itemOffsets(l: Linework): number[] {
  const counts = [
    l.segments.length / STRIDE.segments, l.fillEdges.length / STRIDE.fillEdges, l.arcs.length / STRIDE.arcs,
    l.circles.length / STRIDE.circles, l.curves.length / STRIDE.curves, l.arcs.length / STRIDE.arcs, l.circles.length / STRIDE.circles,
  ];
  const offsets = [0];
  for (const n of counts) offsets.push(offsets[offsets.length - 1] + n);
  return offsets;
}

/**
 * Boxes are kept as 32-bit floats, rounded outwards by this share, so that nothing is missed
 * and the index takes half the memory.
 */
const ROUND_OUT = 1.2e-7;

/** Builds the spatial index over all that can be snapped to. null for a page with nothing. */
export function buildSheetIndex(l: Linework): Flatbush | null {
  const total = itemOffsets(l)[ITEM_KINDS.length];
  if (total === 0) return null;
  const index = new Flatbush(total, 16, Float32Array);
  const add = (x0: number, y0: number, x1: number, y1: number) => {
    const grow = ROUND_OUT * Math.max(Math.abs(x0), Math.abs(y0), Math.abs(x1), Math.abs(y1));
    index.add(x0 - grow, y0 - grow, x1 + grow, y1 + grow);
  };
  const addLines = (lines: Float64Array) => {
    for (let i = 0; i < lines.length; i += 4) {
      const x0 = lines[i], y0 = lines[i + 1], x1 = lines[i + 2], y1 = lines[i + 3];
      add(x0 < x1 ? x0 : x1, y0 < y1 ? y0 : y1, x0 < x1 ? x1 : x0, y0 < y1 ? y1 : y0);
    }
  };
  addLines(l.segments);
  addLines(l.fillEdges);
  for (let i = 0; i < l.arcs.length; i += 5) add(l.arcs[i] - l.arcs[i + 2], l.arcs[i + 1] - l.arcs[i + 2], l.arcs[i] + l.arcs[i + 2], l.arcs[i + 1] + l.arcs[i + 2]);
  for (let i = 0; i < l.circles.length; i += 3) add(l.circles[i] - l.circles[i + 2], l.circles[i + 1] - l.circles[i + 2], l.circles[i] + l.circles[i + 2], l.circles[i + 1] + l.circles[i + 2]);
  for (let i = 0; i < l.curves.length; i += 8) add(...cubicBox(asCubic(l.curves, i)));
  for (let i = 0; i < l.arcs.length; i += 5) add(l.arcs[i], l.arcs[i + 1], l.arcs[i], l.arcs[i + 1]);
  for (let i = 0; i < l.circles.length; i += 3) add(l.circles[i], l.circles[i + 1], l.circles[i], l.circles[i + 1]);
  index.finish();
  return index;
}

/** The index's bytes for storing; an empty buffer for none. */
export const indexBytes = (index: Flatbush | null): ArrayBuffer => (index ? (index.data as ArrayBuffer) : new ArrayBuffer(0));

export const indexFromBytes = (bytes: ArrayBuffer): Flatbush | null => (bytes.byteLength === 0 ? null : Flatbush.from(bytes));
