import type Flatbush from 'flatbush';
import { Snapper } from './query.ts';
import { buildSheetIndex, SheetItems, type SnapGeometry } from './sheet-items.ts';

const NONE = new Float64Array(0);

/** A snapper over a page and its index. An index that was stored before texts were part of it finds all but the texts. */
export const sheetSnapper = (geometry: SnapGeometry, index: Flatbush | null): Snapper =>
  new Snapper(new SheetItems(geometry, index));

/** A snapper over straight lines that do not change, x0, y0, x1, y1 each. */
export function lineSnapper(lines: readonly (readonly [number, number, number, number])[]): Snapper {
  const geometry: SnapGeometry = {
    segments: new Float64Array(lines.flat()),
    fillEdges: NONE,
    arcs: NONE,
    circles: NONE,
    curves: NONE,
  };
  return sheetSnapper(geometry, buildSheetIndex(geometry));
}
