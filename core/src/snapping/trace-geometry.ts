import type { Polygon } from '../geometry/index.ts';
import { buildSheetIndex } from './items.ts';
import type { Linework } from '../linework/types.ts';
import { Snapper, type SnapGeometry } from './query.ts';

const NONE = new Float64Array(0);

/** A snapper over what has been traced: outlines and drawn lines, plane millimetres. */
export function traceSnapper(lines: readonly (readonly [number, number, number, number])[], outlines: readonly Polygon[]): Snapper {
  const values: number[] = lines.flat();
  for (const polygon of outlines) {
    for (const ring of polygon) ring.forEach((p, i) => values.push(...p, ...ring[(i + 1) % ring.length]));
  }
  const geometry: SnapGeometry = { segments: new Float64Array(values), fillEdges: NONE, arcs: NONE, circles: NONE, curves: NONE };
  return new Snapper(geometry, buildSheetIndex(geometry as Linework));
}
