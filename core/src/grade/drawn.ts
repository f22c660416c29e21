import {
  applyTransform,
  arcPiece,
  cubicPiece,
  flattenPiece,
  meanScale,
  type Piece,
  type Transform,
} from '../geometry/index.ts';
import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { mayBeBuilt } from '../proposals/index.ts';

/** How far chords may stray from what is bent, sheet points: a fiftieth of a hair's width. */
const CHORDS = 0.01;
/** A line as thick as this on the plane, millimetres, has two sides, each as good as its middle. */
const THICK = 40;

/** What of a sheet is drawn there as a thing, not as words, figures, hatches or remarks: straight lines on the plane, millimetres. */
export function drawnLines(l: Linework, placement: Transform): Float64Array {
  const out: number[] = [],
    scale = meanScale(placement),
    isBuilt = mayBeBuilt(l),
    put = (p: readonly [number, number], q: readonly [number, number]) =>
      out.push(...applyTransform(placement, p), ...applyTransform(placement, q));
  const isOn = (layer: number): boolean => layer < 0 || l.layers[layer]?.on !== false,
    isDrawn = (kind: number): boolean => {
      const name = ITEM_KINDS_OF_SHEET[kind];
      return name === 'line' || name === 'curve' || name === 'fill';
    };
  for (let i = 0; i < l.segmentKind.length; i++) {
    const layer = l.segmentStyle[2 * i];
    if (!isOn(layer) || !isBuilt(i)) continue;
    const [x0, y0, x1, y1] = l.segments.subarray(4 * i, 4 * i + 4),
      width = l.pens[l.segmentStyle[2 * i + 1]]?.width ?? 0,
      length = Math.hypot(x1 - x0, y1 - y0);
    put([x0, y0], [x1, y1]);
    if (width * scale < THICK || length === 0) continue;
    const [nx, ny] = [(-(y1 - y0) / length) * (width / 2), ((x1 - x0) / length) * (width / 2)];
    put([x0 + nx, y0 + ny], [x1 + nx, y1 + ny]);
    put([x0 - nx, y0 - ny], [x1 - nx, y1 - ny]);
  }
  for (let i = 0; i < l.fillEdgeKind.length; i++) {
    if (!isOn(l.fillEdgeStyle[2 * i]) || !isDrawn(l.fillEdgeKind[i])) continue;
    const [x0, y0, x1, y1] = l.fillEdges.subarray(4 * i, 4 * i + 4);
    put([x0, y0], [x1, y1]);
  }
  const putPiece = (piece: Piece) => {
    const points = flattenPiece(piece, CHORDS);
    for (let k = 1; k < points.length; k++)
      put(points[k - 1] as [number, number], points[k] as [number, number]);
  };
  for (let i = 0; i < l.arcKind.length; i++) {
    if (!isOn(l.arcStyle[2 * i]) || !isDrawn(l.arcKind[i])) continue;
    const [cx, cy, r, start, end] = l.arcs.subarray(5 * i, 5 * i + 5);
    putPiece(arcPiece({ cx, cy, r, start, end }));
  }
  for (let i = 0; i < l.circleKind.length; i++) {
    if (!isOn(l.circleStyle[2 * i]) || !isDrawn(l.circleKind[i])) continue;
    const [cx, cy, r] = l.circles.subarray(3 * i, 3 * i + 3);
    putPiece(arcPiece({ cx, cy, r, start: 0, end: 2 * Math.PI }));
  }
  for (let i = 0; i < l.curveKind.length; i++) {
    if (!isOn(l.curveStyle[2 * i]) || !isDrawn(l.curveKind[i])) continue;
    const [a, b, c, d, e, f, g, h] = l.curves.subarray(8 * i, 8 * i + 8);
    putPiece(cubicPiece([a, b, c, d, e, f, g, h]));
  }
  return Float64Array.from(out);
}
