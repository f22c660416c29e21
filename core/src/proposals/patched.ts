import Flatbush from 'flatbush';
import { insideIntervals, makeRegion, subtractIntervals, type Interval } from '../geometry/index.ts';
import { layerStates, NO_SWITCHES, STRIDE, type Linework, type Switches } from '../linework/index.ts';

/** A line along the edge of a patch shows, and shorter stretches are neither hidden nor left, sheet points. */
const EDGE = 0.05,
  SHORTEST = 0.3;

/** A sheet without what lies under its white patches, as its layers are switched: straight lines and edges of fills cut to what of them can be seen. */
export function withoutPatched(l: Linework, switches: Switches = NO_SWITCHES): Linework {
  const on = layerStates(l.layers, switches),
    patches = (l.patches ?? []).filter(({ object }) => on[l.objects[3 * object]] !== false);
  if (patches.length === 0) return l;
  const regions = patches.map((p) => makeRegion([p.ring], 'nonzero')),
    tree = new Flatbush(patches.length);
  for (const { box } of regions) tree.add(...box);
  tree.finish();
  const out: Linework = { ...l };
  const cut = (kind: 'segments' | 'fillEdges', prefix: 'segment' | 'fillEdge'): void => {
    const [from, style, object, kinds] = [
        l[kind],
        l[`${prefix}Style`],
        l[`${prefix}Object`],
        l[`${prefix}Kind`],
      ],
      lines: number[] = [],
      origin: number[] = [];
    for (let i = 0; i < kinds.length; i++) {
      const [x0, y0, x1, y1] = from.subarray(STRIDE[kind] * i, STRIDE[kind] * (i + 1)),
        length = Math.hypot(x1 - x0, y1 - y0),
        isLong = ([a, b]: Interval) => (b - a) * length >= SHORTEST,
        over = tree.search(
          Math.min(x0, x1),
          Math.min(y0, y1),
          Math.max(x0, x1),
          Math.max(y0, y1),
          (n) => patches[n].object > object[i],
        );
      let shown: Interval[] = [[0, 1]];
      for (const n of over)
        shown = subtractIntervals(shown, insideIntervals(regions[n], x0, y0, x1, y1, EDGE).filter(isLong));
      for (const [a, b] of over.length > 0 ? shown.filter(isLong) : shown) {
        lines.push(x0 + a * (x1 - x0), y0 + a * (y1 - y0), x0 + b * (x1 - x0), y0 + b * (y1 - y0));
        origin.push(i);
      }
    }
    out[kind] = Float64Array.from(lines);
    out[`${prefix}Style`] = Int32Array.from(origin.flatMap((i) => [style[2 * i], style[2 * i + 1]]));
    out[`${prefix}Object`] = Int32Array.from(origin, (i) => object[i]);
    out[`${prefix}Kind`] = Uint8Array.from(origin, (i) => kinds[i]);
  };
  cut('segments', 'segment');
  cut('fillEdges', 'fillEdge');
  return out;
}
