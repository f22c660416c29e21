import type { SheetPoint } from '../../geometry/index.ts';
import { LineIndex, STRIDE, type Linework, type PageText } from '../../linework/index.ts';
import { parseNumber } from '../../units/index.ts';
import type { Stretch, StretchFinder } from './line-pairs.ts';

/** Running dimensions: figures along one line say how far it is from its beginning, which a ring or a nought marks. */

/** In heights of the figures: how long such a line is at least, how far from it figures stand, how far along from their marks. */
const LEAST_LENGTH = 12,
  REACH = 2.6,
  ASIDE = 2;
/** The nought stands this near to the beginning, in heights. */
const AT_ZERO = 3.5;
/** So many figures fit at least, of those that stand along the line this share, each to so many sheet points. */
const LEAST = 4,
  MOST_OF_THEM = 0.7,
  FITS = 0.25;
const ON_END = 0.6,
  SCORE = 0.95;

interface Along {
  text: number;
  value: number;
  stations: number[];
}

/** The stretches from the beginning to each figure's mark, by the number of its text. */
export function runningDimensions(
  texts: readonly (PageText | null)[],
  l: Linework,
  finder: StretchFinder,
): Map<number, Stretch> {
  const index = new LineIndex(
    l.segments,
    Int32Array.from({ length: l.segments.length / STRIDE.segments }, (_, i) => i),
  );
  const numbers = texts.flatMap((t, i) => {
    const words = t?.text.trim() ?? '',
      value = /^[\d.,\s]+$/.test(words) ? parseNumber(words) : null;
    return value === null || value < 0 ? [] : [{ t: t!, i, value }];
  });
  const out = new Map<number, Stretch>();
  for (const { from, to, h } of beginnings(
    numbers.filter((n) => n.value === 0).map((n) => n.t),
    l,
    index,
  )) {
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
      ux = (to[0] - from[0]) / length,
      uy = (to[1] - from[1]) / length;
    const places = finder.marksAlong({ x: from[0], y: from[1], ux, uy }, length, h).filter((t) => t > 0.5);
    const along = numbers.flatMap(({ t, i, value }): Along[] => {
      if (value === 0 || Math.abs(t.height - h) > 0.25 * h) return [];
      const mx = t.x + (Math.cos(t.radians) * t.width) / 2,
        my = t.y + (Math.sin(t.radians) * t.width) / 2;
      const u = (mx - from[0]) * ux + (my - from[1]) * uy,
        v = Math.abs(-(mx - from[0]) * uy + (my - from[1]) * ux);
      const way = Math.abs(Math.cos(t.radians) * ux + Math.sin(t.radians) * uy),
        half = t.width / 2;
      if (v > REACH * h + (1 - way) * half || u < 0 || u > length + half + ASIDE * h) return [];
      const stations = places.filter((p) => Math.abs(p - u) < way * half + ASIDE * h);
      return stations.length > 0 ? [{ text: i, value, stations }] : [];
    });
    const slope = bestSlope(along);
    const fitting = along.flatMap((a) => {
      const t = a.stations.find((s) => Math.abs(s - slope * a.value) < FITS);
      return t === undefined ? [] : [{ ...a, t }];
    });
    if (new Set(fitting.map((f) => f.value)).size < LEAST || fitting.length < MOST_OF_THEM * along.length)
      continue;
    for (const { text, t } of fitting)
      out.set(text, {
        from,
        to: [from[0] + t * ux, from[1] + t * uy],
        points: t,
        score: SCORE,
        sure: true,
        marked: true,
      });
  }
  return out;
}

/** The points of the sheet for one unit that the most figures agree on. */
function bestSlope(along: readonly Along[]): number {
  let best = { slope: 0, count: 0 };
  for (const a of along)
    for (const s of a.stations) {
      const slope = s / a.value,
        count = along.filter((b) => b.stations.some((t) => Math.abs(t - slope * b.value) < FITS)).length;
      if (count > best.count) best = { slope, count };
    }
  return best.slope;
}

/** Lines that begin at a ring, or beside a nought. `h`: the height of the figures there. */
function beginnings(
  noughts: readonly PageText[],
  l: Linework,
  index: LineIndex,
): { from: SheetPoint; to: SheetPoint; h: number }[] {
  const s = l.segments,
    out: { from: SheetPoint; to: SheetPoint; h: number }[] = [];
  const rings = Array.from({ length: l.circles.length / STRIDE.circles }, (_, i) =>
    l.circles.subarray(STRIDE.circles * i, STRIDE.circles * (i + 1)),
  );
  for (const zero of noughts) {
    const h = zero.height,
      mx = zero.x + (Math.cos(zero.radians) * zero.width) / 2,
      my = zero.y + (Math.sin(zero.radians) * zero.width) / 2,
      reach = AT_ZERO * h;
    const ring = rings.find(([x, y, r]) => r <= h && Math.hypot(x - mx, y - my) < reach + 0.5 * h);
    for (const i of index.inBox(mx - reach, my - reach, mx + reach, my + reach)) {
      for (const k of [0, 2]) {
        const from: SheetPoint = [s[4 * i + k], s[4 * i + k + 1]],
          to: SheetPoint = [s[4 * i + 2 - k], s[4 * i + 3 - k]];
        if (
          Math.hypot(to[0] - from[0], to[1] - from[1]) < LEAST_LENGTH * h ||
          Math.hypot(from[0] - mx, from[1] - my) > reach
        )
          continue;
        if (!ring || Math.hypot(from[0] - ring[0], from[1] - ring[1]) <= ring[2] + ON_END)
          out.push({
            from:
              ring && Math.hypot(from[0] - ring[0], from[1] - ring[1]) > ON_END ? [ring[0], ring[1]] : from,
            to,
            h,
          });
      }
    }
  }
  return out;
}
