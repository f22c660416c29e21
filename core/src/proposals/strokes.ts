import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';

/** A straight line of a sheet that may be a face of something; sheet points. */
export interface Stroke {
  from: readonly [number, number];
  to: readonly [number, number];
  /** Which pen drew it, on which layer; the edge of a fill has none. */
  pen: string;
  /** Its width, sheet points; 0 of the edge of a fill. */
  width: number;
  filled: boolean;
}

/** What is never a face. */
const NOT: ReadonlySet<string> = new Set(['hatch', 'text', 'dimension', 'picture', 'markup']);
/** Shorter lines are parts of letters, marks and curves, sheet points. */
const SHORTEST = 0.6;

/** What tells pens apart: their layer, width and colour; of the edges of fills (-1) their layer. */
export function penName(l: Linework, layer: number, pen: number): string {
  const of = l.pens[pen];
  return of ? `${layer} ${of.width.toFixed(2)} ${of.colour}` : `fill ${layer}`;
}

/** The solid straight lines of a sheet without hatches, dimensions, texts and mark-ups: strokes, and edges of fills. */
export function strokesOf(l: Linework): Stroke[] {
  const out: Stroke[] = [];
  const take = (lines: Float64Array, style: Int32Array, kinds: Uint8Array, filled: boolean) => {
    for (let i = 0; i < lines.length / 4; i++) {
      if (NOT.has(ITEM_KINDS_OF_SHEET[kinds[i]])) continue;
      const [x0, y0, x1, y1] = lines.subarray(4 * i, 4 * i + 4),
        layer = style[2 * i],
        pen = filled ? undefined : l.pens[style[2 * i + 1]];
      if (pen && pen.dash.length > 0) continue;
      if (layer >= 0 && l.layers[layer]?.on === false) continue;
      if (Math.hypot(x1 - x0, y1 - y0) < SHORTEST) continue;
      out.push({
        from: [x0, y0],
        to: [x1, y1],
        pen: penName(l, layer, filled ? -1 : style[2 * i + 1]),
        width: pen?.width ?? 0,
        filled,
      });
    }
  };
  take(l.segments, l.segmentStyle, l.segmentKind, false);
  take(l.fillEdges, l.fillEdgeStyle, l.fillEdgeKind, true);
  return out;
}
