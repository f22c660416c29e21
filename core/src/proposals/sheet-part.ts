import type { Box } from '../geometry/index.ts';
import { STRIDE, type Linework } from '../linework/index.ts';

/** The linework of a part of a sheet, its heights stretched by a factor (1: as they are). */
export function partOfSheet(l: Linework, region: Box | null, stretch = 1): Linework {
  if (!region && stretch === 1) return l;
  const isIn = (x: number, y: number): boolean =>
    !region || (x >= region[0] && x <= region[2] && y >= region[1] && y <= region[3]);
  const out: Linework = { ...l };
  const lines = (kind: 'segments' | 'fillEdges', prefix: 'segment' | 'fillEdge') => {
    const from = l[kind],
      kept: number[] = [];
    for (let i = 0; i < from.length / 4; i++)
      if (isIn((from[4 * i] + from[4 * i + 2]) / 2, (from[4 * i + 1] + from[4 * i + 3]) / 2)) kept.push(i);
    out[kind] = taken(from, kept, STRIDE[kind]).map((v, k) => (k % 2 === 1 ? v * stretch : v));
    beside(out, l, prefix, kept);
  };
  lines('segments', 'segment');
  lines('fillEdges', 'fillEdge');
  const rounds = (kind: 'arcs' | 'circles', prefix: 'arc' | 'circle') => {
    const from = l[kind],
      stride = STRIDE[kind],
      kept: number[] = [];
    for (let i = 0; i < from.length / stride; i++)
      if (isIn(from[stride * i], from[stride * i + 1])) kept.push(i);
    out[kind] = taken(from, kept, stride).map((v, k) => (k % stride === 1 ? v * stretch : v));
    beside(out, l, prefix, kept);
  };
  rounds('arcs', 'arc');
  rounds('circles', 'circle');
  out.texts = l.texts.filter((t) => isIn(t.x, t.y)).map((t) => ({ ...t, y: t.y * stretch }));
  return out;
}

const taken = (from: Float64Array, kept: readonly number[], stride: number): Float64Array => {
  const out = new Float64Array(kept.length * stride);
  kept.forEach((i, k) => out.set(from.subarray(stride * i, stride * (i + 1)), stride * k));
  return out;
};

function beside(
  out: Linework,
  l: Linework,
  of: 'segment' | 'fillEdge' | 'arc' | 'circle',
  kept: readonly number[],
) {
  const style = l[`${of}Style`];
  out[`${of}Style`] = Int32Array.from(kept.flatMap((i) => [style[2 * i], style[2 * i + 1]]));
  out[`${of}Object`] = Int32Array.from(kept, (i) => l[`${of}Object`][i] ?? -1);
  out[`${of}Kind`] = Uint8Array.from(kept, (i) => l[`${of}Kind`][i]);
}
