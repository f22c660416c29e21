import { makeRegion, regionContains, type Point } from '../geometry/index.ts';
import {
  ITEM_KINDS_OF_SHEET,
  layerStates,
  NO_SWITCHES,
  penKey,
  STRIDE,
  type Linework,
  type Switches,
} from '../linework/index.ts';

/** What of a sheet is looked at. */
export interface SheetPart {
  /** What lies within it; null: all. */
  ring?: readonly Point[] | null;
  /** What is switched off shows nothing. */
  switches?: Switches;
}

/** The linework of a part of a sheet as it is switched, its heights stretched by a factor (1: as they are). */
export function partOfSheet(
  l: Linework,
  { ring = null, switches = NO_SWITCHES }: SheetPart,
  stretch = 1,
): Linework {
  if (!ring && switches === NO_SWITCHES && stretch === 1) return l;
  const region = ring && makeRegion([ring], 'nonzero'),
    layers = layerStates(l.layers, switches),
    pensOff = new Set(switches.pens),
    penOff = l.pens.map((pen) => pensOff.has(penKey(pen))),
    kindOff = ITEM_KINDS_OF_SHEET.map((kind) => switches.kinds.includes(kind));
  const shows = (layer: number, pen: number, kind: number, x: number, y: number): boolean =>
    !kindOff[kind] &&
    (layer < 0 || layers[layer]) &&
    (pen < 0 || !penOff[pen]) &&
    (!region || regionContains(region, x, y));
  const out: Linework = { ...l, layers: l.layers.map((layer, i) => ({ ...layer, on: layers[i] })) };
  const keep = (
    kind: 'segments' | 'fillEdges' | 'arcs' | 'circles' | 'curves',
    prefix: 'segment' | 'fillEdge' | 'arc' | 'circle' | 'curve',
  ) => {
    const from = l[kind],
      stride = STRIDE[kind],
      // All figures of lines and curves are places; of the round ones the first two.
      isPlaces = kind !== 'arcs' && kind !== 'circles',
      style = l[`${prefix}Style`],
      kinds = l[`${prefix}Kind`],
      kept: number[] = [];
    for (let i = 0; i < kinds.length; i++) {
      const k = stride * i,
        [x, y] = isPlaces
          ? [(from[k] + from[k + stride - 2]) / 2, (from[k + 1] + from[k + stride - 1]) / 2]
          : [from[k], from[k + 1]];
      if (shows(style[2 * i], style[2 * i + 1], kinds[i], x, y)) kept.push(i);
    }
    const taken = new Float64Array(kept.length * stride);
    kept.forEach((i, n) => taken.set(from.subarray(stride * i, stride * (i + 1)), stride * n));
    const isHeight = (n: number) => n % (isPlaces ? 2 : stride) === 1;
    out[kind] = taken.map((v, n) => (isHeight(n) ? v * stretch : v));
    out[`${prefix}Style`] = Int32Array.from(kept.flatMap((i) => [style[2 * i], style[2 * i + 1]]));
    out[`${prefix}Object`] = Int32Array.from(kept, (i) => l[`${prefix}Object`][i] ?? -1);
    out[`${prefix}Kind`] = Uint8Array.from(kept, (i) => kinds[i]);
  };
  keep('segments', 'segment');
  keep('fillEdges', 'fillEdge');
  keep('arcs', 'arc');
  keep('circles', 'circle');
  keep('curves', 'curve');
  out.texts = l.texts
    .filter((t) => shows(t.layer, -1, t.kind, t.x, t.y))
    .map((t) => ({ ...t, y: t.y * stretch }));
  return out;
}
