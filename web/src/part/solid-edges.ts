import { isFullTurn } from '@calque/core/geometry';
import type { SolidView } from '@calque/core/part';
import { buildSheetIndex, sheetSnapper, type SnapGeometry, type Snapper } from '@calque/core/snapping';

/** What is seen of a solid on a plane, to be found by picks: ends, middles, centres, crossings. */
export function edgesSnapper({ visible, hidden }: SolidView): Snapper {
  const segments: number[] = [],
    arcs: number[] = [],
    circles: number[] = [];
  for (const piece of [...visible, ...hidden]) {
    if (piece.kind === 'segment') segments.push(...piece.from, ...piece.to);
    if (piece.kind !== 'arc') continue;
    const { cx, cy, r, start, end } = piece.arc;
    if (isFullTurn(piece.arc)) circles.push(cx, cy, r);
    else arcs.push(cx, cy, r, start, end);
  }
  const geometry: SnapGeometry = {
    segments: Float64Array.from(segments),
    fillEdges: new Float64Array(0),
    arcs: Float64Array.from(arcs),
    circles: Float64Array.from(circles),
    curves: new Float64Array(0),
  };
  return sheetSnapper(geometry, buildSheetIndex(geometry));
}
