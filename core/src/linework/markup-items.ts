import type { Taken } from './collector.ts';
import type { MarkupObject } from './page-objects.ts';

/** The lines and circles of mark-ups behind those of the page, numbered -1 - n by the nth mark-up. `penOf`: the pen that each is drawn with. */
export function withMarkups(
  segments: Taken,
  circles: Taken,
  markups: readonly MarkupObject[],
  penOf: (m: MarkupObject) => number,
): { segments: Taken; circles: Taken } {
  const lines = markups.flatMap((m, n) => m.lines.map((values) => ({ n, values })));
  const rounds = markups.flatMap((m, n) =>
    m.circle ? [{ n, values: [m.circle.cx, m.circle.cy, m.circle.r] }] : [],
  );
  const pens = markups.map(penOf);
  return { segments: extended(segments, lines, pens), circles: extended(circles, rounds, pens) };
}

function extended(
  taken: Taken,
  items: readonly { n: number; values: readonly number[] }[],
  pens: readonly number[],
): Taken {
  if (items.length === 0) return taken;
  const stride = items[0].values.length,
    before = taken.object.length;
  const geometry = new Float64Array(taken.geometry.length + items.length * stride),
    style = new Int32Array(2 * (before + items.length)),
    object = new Int32Array(before + items.length);
  geometry.set(taken.geometry);
  style.set(taken.style);
  object.set(taken.object);
  items.forEach(({ n, values }, i) => {
    geometry.set(values, (before + i) * stride);
    // On no layer.
    style.set([-1, pens[n]], 2 * (before + i));
    object[before + i] = -1 - n;
  });
  return { geometry, style, object, drawn: taken.drawn };
}
