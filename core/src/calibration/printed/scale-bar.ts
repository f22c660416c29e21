import { MM_PER_POINT, type SheetPoint } from '../../geometry/index.ts';
import { LineIndex, STRIDE, type Linework, type PageText } from '../../linework/index.ts';
import { parseNumber, type BareUnit } from '../../units/index.ts';

/** A graphic scale. `exact`: read from its ticks or boxes, not from where its figures stand; `texts`: the numbers of its figures among those given. */
export interface ScaleBar {
  text: string;
  factor: number;
  at: readonly [number, number];
  exact: boolean;
  /** Relative, 95 %. */ uncertainty: number;
  unit: BareUnit;
  texts: number[];
  /** Its ends on the sheet and what lies between them, where it is exact. */ span: BarSpan | null;
}
export interface BarSpan {
  from: SheetPoint;
  to: SheetPoint;
  millimetres: number;
}

const UNIT = /^(.*?)\s*(mm|cm|km|m|met(?:er|re)s?|ft|feet|foot|'|’|′|in|inch(?:es)?|yd|yards?)\.?$/i;
/** A title that says what a bar is in. */
const TITLE =
  /\b(millimet(?:er|re)s?|centimet(?:er|re)s?|kilomet(?:er|re)s?|met(?:er|re)s?|mètres?|metros?|metri|feet|foot|yards?|inches|mm|cm|km|m|ft)\b\.?\s*\)?$/i;
const MM: [RegExp, number, BareUnit, string][] = [
  [/^(mm|milli)/i, 1, 'mm', 'mm'],
  [/^(cm|centi)/i, 10, 'cm', 'cm'],
  [/^(km|kilo)/i, 1e6, 'm', 'km'],
  [/^(m$|met|mè)/i, 1000, 'm', 'm'],
  [/^(ft|feet|foot|['’′])/i, 304.8, 'ft', 'ft'],
  [/^(in)/i, 25.4, 'in', 'in'],
  [/^y/i, 914.4, 'ft', 'yd'],
];
const unitIn = (word: string) => MM.find(([pattern]) => pattern.test(word)) ?? null;
/** Figures of one bar stand on one line, to this share of their height. */
const SAME_LINE = 0.3;
/** Their places may miss the straight line through them by this share of the bar, its ticks by so many sheet points. */
const STRAIGHT = 0.012,
  TICK_STRAIGHT = 0.25;
/** How far ticks and boxes stand from the base line of the figures, in heights. */
const TICK_REACH = 4.5;
/** A title stands within this many heights of its bar. */
const TITLE_REACH = 6;
/** What the figures' own places are good for, and ticks, relative and in sheet points. */
const BY_FIGURES = 0.01,
  BY_TICKS = 0.06;
const MOST_FIGURES = 16;

interface Place {
  value: number;
  /** The middle of its text, and of its number alone, along the row. */ whole: number;
  number: number;
  half: number;
  text: number;
}
type Frame = (x: number, y: number) => [number, number];

/** Graphic scales: figures from 0 up in one row, as far apart as their values say; the unit stands with them, beside them, or in a title. */
export function scaleBars(texts: readonly (PageText | null)[], l: Linework): ScaleBar[] {
  const bars: ScaleBar[] = [];
  let ticks: Ticks | null = null;
  texts.forEach((zero, z) => {
    const said = zero && UNIT.exec(zero.text.trim());
    if (!zero || (zero.text.trim() !== '0' && said?.[1] !== '0')) return;
    const ux = Math.cos(zero.radians),
      uy = Math.sin(zero.radians);
    const frame: Frame = (x, y) => [
      (x - zero.x) * ux + (y - zero.y) * uy,
      -(x - zero.x) * uy + (y - zero.y) * ux,
    ];
    const row = texts
      .flatMap((t, i) => {
        if (
          !t ||
          Math.cos(t.radians - zero.radians) < 0.999 ||
          Math.abs(t.height - zero.height) > 0.1 * zero.height
        )
          return [];
        const [along, off] = frame(t.x, t.y);
        return Math.abs(off) < SAME_LINE * zero.height && along > 0 ? [{ t, i, along }] : [];
      })
      .sort((a, b) => a.along - b.along)
      .slice(0, MOST_FIGURES);
    const places: Place[] = [
      {
        value: 0,
        whole: zero.width / 2,
        number: (zero.width * 1) / zero.text.trim().length / 2,
        half: zero.width,
        text: z,
      },
    ];
    let unit = said ? unitIn(said[2]) : null;
    for (const { t, i, along } of row) {
      const words = t.text.trim(),
        own = UNIT.exec(words),
        number = parseNumber(own ? own[1] || 'x' : words);
      if (own) unit ??= unitIn(own[2]);
      if (number !== null) {
        if (number <= places[places.length - 1].value) break;
        places.push({
          value: number,
          whole: along + t.width / 2,
          number: along + (own ? (t.width * own[1].length) / words.length : t.width) / 2,
          half: t.width,
          text: i,
        });
      }
      if (number === null) break;
    }
    if (places.length < 2) return;
    unit ??= titled(texts, frame, zero.height, places[places.length - 1].whole);
    if (!unit) return;
    ticks ??= new Ticks(l);
    const found = fitted(places, ticks.along(zero, frame, places[places.length - 1].whole), zero.height);
    if (!found) return;
    const last = places[places.length - 1].value,
      at = (u: number): SheetPoint => [zero.x + u * ux - found.off * uy, zero.y + u * uy + found.off * ux];
    bars.push({
      span: found.exact
        ? { from: at(found.at(0)), to: at(found.at(last)), millimetres: last * unit[1] }
        : null,
      text: `${places.map((v) => v.value).join(' ')} ${unit[3]}`,
      factor: unit[1] / (found.slope * MM_PER_POINT),
      at: [zero.x, zero.y],
      exact: found.exact,
      uncertainty: found.exact ? BY_TICKS / (found.slope * places[places.length - 1].value) : BY_FIGURES,
      unit: unit[2],
      texts: places.map((p) => p.text),
    });
  });
  return bars;
}

/** What a title above or below the bar, or at its end, says. */
function titled(
  texts: readonly (PageText | null)[],
  frame: Frame,
  h: number,
  end: number,
): (typeof MM)[number] | null {
  for (const t of texts) {
    if (!t) continue;
    const [along, off] = frame(t.x, t.y),
      word = TITLE.exec(t.text.trim());
    if (
      word &&
      Math.abs(off) < TITLE_REACH * h &&
      along + t.width > -TITLE_REACH * h &&
      along < end + TITLE_REACH * h
    )
      return unitIn(word[1]);
  }
  return null;
}

/** A stroke square to a row of figures: its place along the row, and the middle of it above the base line. */
interface Tick {
  u: number;
  v: number;
}

/** Strokes and edges of boxes square to a row of figures. */
class Ticks {
  private readonly lines: [LineIndex, Float64Array][];
  constructor(l: Linework) {
    this.lines = [l.segments, l.fillEdges].map((a) => [
      new LineIndex(
        a,
        Int32Array.from({ length: a.length / STRIDE.segments }, (_, i) => i),
      ),
      a,
    ]);
  }

  along(zero: PageText, frame: Frame, end: number): Tick[] {
    const h = zero.height,
      ux = Math.cos(zero.radians),
      uy = Math.sin(zero.radians),
      margin = 3 * h;
    const at = (u: number, v: number) => [zero.x + u * ux - v * uy, zero.y + u * uy + v * ux];
    const corners = [
      at(-margin, -TICK_REACH * h),
      at(end + margin, -TICK_REACH * h),
      at(-margin, TICK_REACH * h),
      at(end + margin, TICK_REACH * h),
    ];
    const box = [
      Math.min(...corners.map((c) => c[0])),
      Math.min(...corners.map((c) => c[1])),
      Math.max(...corners.map((c) => c[0])),
      Math.max(...corners.map((c) => c[1])),
    ] as const;
    return this.lines.flatMap(([index, a]) =>
      index.inBox(...box).flatMap((i) => {
        const [u0, v0] = frame(a[4 * i], a[4 * i + 1]),
          [u1, v1] = frame(a[4 * i + 2], a[4 * i + 3]);
        return Math.abs(u1 - u0) < 0.02 * Math.abs(v1 - v0) &&
          Math.abs(v1 - v0) <= 2 * TICK_REACH * h &&
          Math.max(Math.abs(v0), Math.abs(v1)) < TICK_REACH * h
          ? [{ u: (u0 + u1) / 2, v: (v0 + v1) / 2 }]
          : [];
      }),
    );
  }
}

/** Points of the sheet for one unit of the bar: by its ticks where each figure has one, else by the figures' places. */
function fitted(
  places: readonly Place[],
  ticks: readonly Tick[],
  h: number,
): { slope: number; at: (value: number) => number; off: number; exact: boolean } | null {
  for (const middle of [(p: Place) => p.whole, (p: Place) => p.number]) {
    const rough = line(places.map((p) => ({ value: p.value, at: middle(p) })));
    if (!(rough.slope > 0)) return null;
    const nearest = places.map((p) => {
      const tick = ticks.reduce(
        (best, t) => (Math.abs(t.u - middle(p)) < Math.abs(best.u - middle(p)) ? t : best),
        { u: Infinity, v: 0 },
      );
      return { value: p.value, at: tick.u, v: tick.v, wanted: middle(p) };
    });
    const exact = nearest.every((n) => Math.abs(n.at - n.wanted) < Math.max(0.6 * h, 1.5))
      ? line(nearest)
      : null;
    if (exact && exact.slope > 0 && nearest.every((n) => Math.abs(n.at - exact.at(n.value)) < TICK_STRAIGHT))
      return { ...exact, off: nearest.reduce((sum, n) => sum + n.v, 0) / nearest.length, exact: true };
  }
  if (places.length < 3) return null;
  const rough = line(places.map((p) => ({ value: p.value, at: p.number }))),
    length = rough.slope * places[places.length - 1].value;
  return rough.slope > 0 &&
    places.every((p) => Math.abs(p.number - rough.at(p.value)) <= Math.max(STRAIGHT * length, 0.35 * p.half))
    ? { ...rough, off: 0, exact: false }
    : null;
}

/** Least squares of place on value. */
function line(points: readonly { value: number; at: number }[]): {
  slope: number;
  at: (value: number) => number;
} {
  const n = points.length,
    mv = points.reduce((s, p) => s + p.value, 0) / n,
    ma = points.reduce((s, p) => s + p.at, 0) / n;
  const slope =
    points.reduce((s, p) => s + (p.value - mv) * (p.at - ma), 0) /
    points.reduce((s, p) => s + (p.value - mv) ** 2, 0);
  return { slope, at: (value) => ma + slope * (value - mv) };
}
