import { buildSheetIndex } from './items.ts';
import type { Linework } from '../linework/types.ts';
import { Snapper, type SnapGeometry } from './query.ts';

const NONE = new Float64Array(0);

/** A snapper over what has been traced, as lines x0, y0, x1, y1 in plane millimetres. */
export function traceSnapper(lines: readonly (readonly [number, number, number, number])[]): Snapper {
  const geometry: SnapGeometry = { segments: new Float64Array(lines.flat()), fillEdges: NONE, arcs: NONE, circles: NONE, curves: NONE };
  return new Snapper(geometry, buildSheetIndex(geometry as Linework));
}
