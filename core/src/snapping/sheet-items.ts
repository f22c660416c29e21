import Flatbush from 'flatbush';
import {
  cubicBox,
  distanceToSegment,
  TAU,
  type Arc,
  type Cubic,
  type Line4,
  type Point,
} from '../geometry/index.ts';
import { asCubic } from '../linework/collector.ts';
import { STRIDE, type Linework } from '../linework/types.ts';
import { ITEM_KINDS, type ItemKind, type SnapItems } from './items.ts';

/** What can be snapped to of a page: its linework and texts. */
export type SnapGeometry = Pick<Linework, 'segments' | 'fillEdges' | 'arcs' | 'circles' | 'curves'> &
  Partial<Pick<Linework, 'texts'>>;

/** First number of each kind, and the total behind the last. */
export function itemOffsets(l: SnapGeometry): number[] {
  const counts = [
    l.segments.length / STRIDE.segments,
    l.fillEdges.length / STRIDE.fillEdges,
    l.arcs.length / STRIDE.arcs,
    l.circles.length / STRIDE.circles,
    l.curves.length / STRIDE.curves,
    l.arcs.length / STRIDE.arcs,
    l.circles.length / STRIDE.circles,
    l.texts?.length ?? 0,
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
export function buildSheetIndex(l: SnapGeometry): Flatbush | null {
  const total = itemOffsets(l)[ITEM_KINDS.length];
  if (total === 0) return null;
  const index = new Flatbush(total, 16, Float32Array);
  const add = (x0: number, y0: number, x1: number, y1: number) => {
    const grow = ROUND_OUT * Math.max(Math.abs(x0), Math.abs(y0), Math.abs(x1), Math.abs(y1));
    index.add(x0 - grow, y0 - grow, x1 + grow, y1 + grow);
  };
  const addLines = (lines: Float64Array) => {
    for (let i = 0; i < lines.length; i += 4) {
      const x0 = lines[i],
        y0 = lines[i + 1],
        x1 = lines[i + 2],
        y1 = lines[i + 3];
      add(x0 < x1 ? x0 : x1, y0 < y1 ? y0 : y1, x0 < x1 ? x1 : x0, y0 < y1 ? y1 : y0);
    }
  };
  addLines(l.segments);
  addLines(l.fillEdges);
  for (let i = 0; i < l.arcs.length; i += 5)
    add(
      l.arcs[i] - l.arcs[i + 2],
      l.arcs[i + 1] - l.arcs[i + 2],
      l.arcs[i] + l.arcs[i + 2],
      l.arcs[i + 1] + l.arcs[i + 2],
    );
  for (let i = 0; i < l.circles.length; i += 3)
    add(
      l.circles[i] - l.circles[i + 2],
      l.circles[i + 1] - l.circles[i + 2],
      l.circles[i] + l.circles[i + 2],
      l.circles[i + 1] + l.circles[i + 2],
    );
  for (let i = 0; i < l.curves.length; i += 8) add(...cubicBox(asCubic(l.curves, i)));
  for (let i = 0; i < l.arcs.length; i += 5) add(l.arcs[i], l.arcs[i + 1], l.arcs[i], l.arcs[i + 1]);
  for (let i = 0; i < l.circles.length; i += 3)
    add(l.circles[i], l.circles[i + 1], l.circles[i], l.circles[i + 1]);
  for (const t of l.texts ?? []) add(t.x, t.y, t.x, t.y);
  index.finish();
  return index;
}

/** The index's bytes for storing; an empty buffer for none. */
export const indexBytes = (index: Flatbush | null): ArrayBuffer =>
  index ? (index.data as ArrayBuffer) : new ArrayBuffer(0);

export const indexFromBytes = (bytes: ArrayBuffer): Flatbush | null =>
  bytes.byteLength === 0 ? null : Flatbush.from(bytes);

/** The items of a page with its index. */
export class SheetItems implements SnapItems {
  private readonly offsets: number[];

  constructor(
    private readonly geometry: SnapGeometry,
    private readonly index: Flatbush | null,
  ) {
    this.offsets = itemOffsets(geometry);
  }

  search(x0: number, y0: number, x1: number, y1: number): number[] {
    return this.index ? this.index.search(x0, y0, x1, y1) : [];
  }

  kindOf(item: number): ItemKind {
    let k = 0;
    while (item >= this.offsets[k + 1]) k++;
    return ITEM_KINDS[k];
  }

  straightDistance(item: number, x: number, y: number): number | null {
    if (item >= this.offsets[2]) return null;
    const fill = item >= this.offsets[1];
    const array = fill ? this.geometry.fillEdges : this.geometry.segments;
    const at = 4 * (fill ? item - this.offsets[1] : item);
    return distanceToSegment(x, y, array[at], array[at + 1], array[at + 2], array[at + 3]);
  }

  segment(item: number): Line4 {
    const fill = item >= this.offsets[1];
    const array = fill ? this.geometry.fillEdges : this.geometry.segments;
    const at = 4 * (fill ? item - this.offsets[1] : item);
    return [array[at], array[at + 1], array[at + 2], array[at + 3]];
  }

  round(item: number): Arc {
    const kind = this.kindOf(item);
    if (kind === 'arc' || kind === 'arcCentre') {
      const at = 5 * (item - this.offsets[kind === 'arc' ? 2 : 5]),
        a = this.geometry.arcs;
      return { cx: a[at], cy: a[at + 1], r: a[at + 2], start: a[at + 3], end: a[at + 4] };
    }
    const at = 3 * (item - this.offsets[kind === 'circle' ? 3 : 6]),
      c = this.geometry.circles;
    return { cx: c[at], cy: c[at + 1], r: c[at + 2], start: 0, end: TAU };
  }

  curve(item: number): Cubic {
    return asCubic(this.geometry.curves, 8 * (item - this.offsets[4]));
  }

  base(item: number): Point {
    const t = this.geometry.texts![item - this.offsets[7]];
    return [t.x, t.y];
  }
}
