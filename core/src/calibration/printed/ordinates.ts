import type { SheetPoint } from '../../geometry/index.ts';
import { LineIndex, STRIDE, type Linework, type PageText } from '../../linework/index.ts';
import { parseNumber } from '../../units/index.ts';
import type { Stretch } from './line-pairs.ts';

/** A figure stands at the outer end of its line: so near, and so far beside it, in heights. */
const NEAR_END = 2,
  OFF = 1.1;
const PARALLEL = 0.02,
  JOINS = 0.3;
/** Lines of one row of ordinates begin at the same height, to so many heights of their figures. */
const ONE_ROW = 4;
/** With the datum at least so many, on places proportional to what they say, to so many sheet points. */
const LEAST = 4,
  STRAIGHT = 0.2;
const SCORE = 0.9;

/** A figure at the end of a line: where the line meets the thing, and its place across the row. */
interface Leg {
  text: number;
  value: number;
  inner: SheetPoint;
  across: number;
  outer: number;
  turn: number;
}

/** Places from a datum: figures at the ends of parallel lines, one of them zero. The stretches run from the datum to each, by the number of its text. */
export function ordinates(texts: readonly (PageText | null)[], l: Linework): Map<number, Stretch> {
  const index = new LineIndex(
    l.segments,
    Int32Array.from({ length: l.segments.length / STRIDE.segments }, (_, i) => i),
  );
  const legs = texts.flatMap((t, i) => {
    const words = t?.text.trim().replace(/^[±+]/, '') ?? '',
      value = /^[\d.,]+$/.test(words) ? parseNumber(words) : null;
    const leg = value === null ? null : legOf(t!, index, l.segments);
    return leg ? [{ ...leg, text: i, value: value! }] : [];
  });
  const out = new Map<number, Stretch>();
  for (const zero of legs.filter((g) => g.value === 0)) {
    const h = texts[zero.text]!.height,
      row = legs.filter(
        (g) =>
          g !== zero &&
          g.value > 0 &&
          Math.cos(g.turn - zero.turn) > 0.999 &&
          Math.abs(g.outer - zero.outer) < ONE_ROW * h,
      );
    for (const side of [1, -1]) {
      const own = row.filter((g) => Math.sign(g.across - zero.across) === side);
      const slope = median(own.map((g) => Math.abs(g.across - zero.across) / g.value));
      const fitting = own.filter(
        (g) => Math.abs(Math.abs(g.across - zero.across) - slope * g.value) < STRAIGHT,
      );
      if (fitting.length + 1 < LEAST || fitting.length < 0.6 * own.length) continue;
      const nx = -Math.sin(zero.turn),
        ny = Math.cos(zero.turn);
      for (const g of fitting) {
        const d = g.across - zero.across;
        out.set(g.text, {
          from: [g.inner[0] - d * nx, g.inner[1] - d * ny],
          to: g.inner,
          points: Math.abs(d),
          score: SCORE,
          sure: true,
          marked: true,
        });
      }
    }
  }
  return out;
}

const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;

/** The line at whose outer end a figure stands, followed to the thing over a jog. */
function legOf(t: PageText, index: LineIndex, s: Float64Array): Omit<Leg, 'text' | 'value'> | null {
  const h = t.height,
    ux = Math.cos(t.radians),
    uy = Math.sin(t.radians);
  const local = (x: number, y: number) => [
    (x - t.x) * ux + (y - t.y) * uy,
    -(x - t.x) * uy + (y - t.y) * ux - 0.35 * h,
  ];
  const reach = t.width + NEAR_END * h;
  for (const i of index.inBox(t.x - reach - h, t.y - reach - h, t.x + reach + h, t.y + reach + h)) {
    const ends = [0, 2].map((k): SheetPoint => [s[4 * i + k], s[4 * i + k + 1]]),
      [p, q] = ends.map((e) => local(...(e as [number, number])));
    const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (length < h || Math.abs(q[1] - p[1]) > PARALLEL * length || Math.abs(p[1]) > OFF * h) continue;
    // Beyond the figure's start or its end, not under it.
    const [near, far] = Math.abs(p[0] - t.width / 2) < Math.abs(q[0] - t.width / 2) ? [0, 1] : [1, 0],
      [a, b] = near === 0 ? [p, q] : [q, p];
    const gap = b[0] < a[0] ? -a[0] : a[0] - t.width;
    if (gap < -0.6 * t.width || gap > NEAR_END * h) continue;
    const inner = followed(i, ends[far], index, s),
      away = b[0] < a[0] ? t.radians + Math.PI : t.radians;
    // The turn is that of the way from the figure to the thing.
    const nx = -Math.sin(away),
      ny = Math.cos(away),
      outer = ends[near][0] * Math.cos(away) + ends[near][1] * Math.sin(away);
    return { inner, across: inner[0] * nx + inner[1] * ny, outer, turn: away };
  }
  return null;
}

/** Over a slanting piece to the parallel one behind it. */
function followed(first: number, end: SheetPoint, index: LineIndex, s: Float64Array): SheetPoint {
  const turn = (i: number) => Math.atan2(s[4 * i + 3] - s[4 * i + 1], s[4 * i + 2] - s[4 * i]),
    sine = (i: number) => Math.abs(Math.sin(turn(i) - turn(first)));
  const next = (
    at: SheetPoint,
    not: readonly number[],
    parallel: boolean,
  ): { i: number; end: SheetPoint } | null => {
    for (const i of index.inBox(at[0] - JOINS, at[1] - JOINS, at[0] + JOINS, at[1] + JOINS)) {
      if (not.includes(i) || (parallel ? sine(i) > PARALLEL : sine(i) < PARALLEL || sine(i) > 0.95)) continue;
      for (const k of [0, 2])
        if (Math.hypot(s[4 * i + k] - at[0], s[4 * i + k + 1] - at[1]) < JOINS)
          return { i, end: [s[4 * i + 2 - k], s[4 * i + 3 - k]] };
    }
    return null;
  };
  const jog = next(end, [first], false),
    last = jog && next(jog.end, [first, jog.i], true);
  return last ? last.end : end;
}
