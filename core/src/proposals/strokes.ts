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
  /** Taken for a line of a hatch when the page was read. */
  hatch: boolean;
}

/** What is never a face. */
const NOT: ReadonlySet<string> = new Set(['text', 'dimension', 'picture', 'markup']);
/** A line of a hatch that is as long as this, sheet points, and runs as at least this share of what is no hatch does, may be a pane or a layer: these lie side by side too. */
const LONG_HATCH = 8,
  SAME_WAY_SHARE = 0.06;
const HALF_DEGREES = 360;
const halfDegree = (x0: number, y0: number, x1: number, y1: number): number =>
  ((Math.round((Math.atan2(y1 - y0, x1 - x0) * HALF_DEGREES) / Math.PI) % HALF_DEGREES) + HALF_DEGREES) %
  HALF_DEGREES;

/** May a line of the sheet be one of something that is built? By its number among the segments. */
export function mayBeBuilt(l: Linework): (i: number) => boolean {
  const lengths = new Float64Array(HALF_DEGREES),
    { segments, segmentKind } = l;
  let all = 0;
  for (let i = 0; i < segmentKind.length; i++) {
    if (ITEM_KINDS_OF_SHEET[segmentKind[i]] !== 'line') continue;
    const [x0, y0, x1, y1] = segments.subarray(4 * i, 4 * i + 4),
      length = Math.hypot(x1 - x0, y1 - y0);
    lengths[halfDegree(x0, y0, x1, y1)] += length;
    all += length;
  }
  const isMain = (bin: number) =>
    lengths[bin] + lengths[(bin + 1) % HALF_DEGREES] + lengths[(bin + HALF_DEGREES - 1) % HALF_DEGREES] >=
    SAME_WAY_SHARE * all;
  return (i) => {
    const kind = ITEM_KINDS_OF_SHEET[segmentKind[i]];
    if (kind !== 'hatch') return !NOT.has(kind);
    const [x0, y0, x1, y1] = segments.subarray(4 * i, 4 * i + 4);
    return Math.hypot(x1 - x0, y1 - y0) >= LONG_HATCH && isMain(halfDegree(x0, y0, x1, y1));
  };
}
/** Shorter lines are parts of letters, marks and curves, sheet points. */
const SHORTEST = 0.6;

/** What tells pens apart: their layer, width and colour; of the edges of fills (-1) their layer. */
export function penName(l: Linework, layer: number, pen: number): string {
  const of = l.pens[pen];
  return of ? `${layer} ${of.width.toFixed(2)} ${of.colour}` : `fill ${layer}`;
}

/** The solid straight lines of a sheet without hatches, dimensions, texts and mark-ups: strokes, and edges of fills. */
export function strokesOf(l: Linework): Stroke[] {
  const out: Stroke[] = [],
    isBuilt = mayBeBuilt(l);
  const take = (lines: Float64Array, style: Int32Array, kinds: Uint8Array, filled: boolean) => {
    for (let i = 0; i < lines.length / 4; i++) {
      const kind = ITEM_KINDS_OF_SHEET[kinds[i]];
      if (filled ? kind === 'hatch' || NOT.has(kind) : !isBuilt(i)) continue;
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
        hatch: kind === 'hatch',
      });
    }
  };
  take(l.segments, l.segmentStyle, l.segmentKind, false);
  take(l.fillEdges, l.fillEdgeStyle, l.fillEdgeKind, true);
  return out;
}
