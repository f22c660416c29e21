import type { Carrier, Way } from './carriers.ts';
import { common, covered, joined, total, type Span } from './spans.ts';

/** Two lines side by side as far as both are drawn: what may be a wall's two faces. Points of the sheet. */
export interface Band {
  way: number;
  /** Numbers of its two carriers among those of the way, the nearer to zero first. */
  low: number;
  high: number;
  thickness: number;
  /** Where both are drawn. */
  both: [number, number][];
  /** Lines of the way between, and the share of it in which they say that it is no wall. */
  crowded: number;
  between: [number, number][];
  /** How alike the pens of both are: 1 where one pen drew both. */
  alike: number;
  /** How many of its two faces may be lines of hatches. */
  hatched: 0 | 1 | 2;
  /** The share of it beside which a band as thick lies again: treads, tiles, boards. */
  again: number;
}

export interface Limits {
  thinnest: number;
  thickest: number;
  /** Less of both than this is none. */
  shortest: number;
  /** What lies so near is one. */
  near: number;
  /** How far places may lie off: of ink, 0 of lines. */
  slack: number;
  /** How much it counts which pen draws a wall, 0 to 1. */
  penWeight: number;
}

const MOST_BETWEEN = 20;
/** Bands of which one is so much less of one pen are drawn by others. */
const OTHER_PEN = 0.5;

/** All bands of a way. */
export function bandsOf(
  { carriers }: Way,
  way: number,
  { thinnest, thickest, shortest, near, slack }: Limits,
): Band[] {
  const out: Band[] = [];
  for (let i = 0; i < carriers.length; i++) {
    // With more lines between them than this two lines are no faces.
    for (let j = i + 1; j < Math.min(carriers.length, i + MOST_BETWEEN); j++) {
      const thickness = carriers[j].off - carriers[i].off;
      if (thickness > thickest) break;
      if (thickness < thinnest) continue;
      const both = common(carriers[i].drawn, carriers[j].drawn).filter(([a, b]) => b - a >= shortest);
      if (both.length === 0) continue;
      const between = carriers
        .slice(i + 1, j)
        .filter((c) => !c.dashed && c.off - carriers[i].off > near && carriers[j].off - c.off > near);
      out.push({
        way,
        low: i,
        high: j,
        thickness,
        both,
        between: between.flatMap((c) => c.drawn),
        crowded: 0,
        alike: slack > 0 ? alikeInk(carriers[i], carriers[j]) : alikeness(carriers[i], carriers[j]),
        again: 0,
        hatched: (Number(carriers[i].hatch > 0.5) + Number(carriers[j].hatch > 0.5)) as 0 | 1 | 2,
      });
    }
  }
  return withAgain(out, near);
}

/** Bands with how much of each is repeated right beside it. */
function withAgain(bands: readonly Band[], near: number): Band[] {
  const byFace = new Map<number, Band[]>();
  for (const b of bands) for (const i of [b.low, b.high]) byFace.set(i, [...(byFace.get(i) ?? []), b]);
  /** Bands as thick right beside one, on one side. */
  const beside = (b: Band, side: 'low' | 'high'): Band[] =>
    (byFace.get(b[side]) ?? []).filter(
      (o) =>
        o !== b &&
        // Tiles beside a wall are no row with it, nor is what another pen draws.
        o.hatched <= b.hatched &&
        o.alike > b.alike - OTHER_PEN &&
        o[side === 'low' ? 'high' : 'low'] === b[side] &&
        Math.abs(o.thickness - b.thickness) <= near,
    );
  return bands.map((b) => {
    const [low, high] = [beside(b, 'low'), beside(b, 'high')];
    if (low.length + high.length === 0) return b;
    // One beside it may be there by chance; three are a row.
    const spans = (of: readonly Band[]) => joined(of.flatMap((o) => o.both)),
      rows = joined([
        ...common(spans(low), spans(high)),
        ...common(spans(low), spans(low.flatMap((o) => beside(o, 'low')))),
        ...common(spans(high), spans(high.flatMap((o) => beside(o, 'high')))),
      ]),
      length = total(b.both);
    return { ...b, again: length > 0 ? b.both.reduce((sum, s) => sum + covered(s, rows), 0) / length : 0 };
  });
}

/** The share of two lines that pens drew which drew both. */
function alikeness(a: Carrier, b: Carrier): number {
  const sum = (c: Carrier) => [...c.pens.values()].reduce((x, y) => x + y, 0);
  const [p, q] = [sum(a), sum(b)];
  if (p === 0 || q === 0) return 0;
  let same = 0;
  for (const [pen, length] of a.pens) same += Math.min(length / p, (b.pens.get(pen) ?? 0) / q);
  return Math.min(1, same);
}

/** How alike two lines of ink are by how wide they are: a scan tells that within about a pixel. */
const alikeInk = (a: Carrier, b: Carrier): number =>
  1 - Math.min(1, Math.max(0, Math.abs(a.width - b.width) - SAME_INK) / OTHER_INK);
/** Widths within this are one pen's, and beyond so much more surely of two, points. */
const SAME_INK = 0.5,
  OTHER_INK = 2;

/** A thickness that walls of a sheet have, and how much speaks for it. */
export interface ThicknessClass {
  thickness: number;
  weight: number;
}

/** Thicknesses that differ by less than this share, or by this many points, are one. */
const SAME_SHARE = 0.03;

/**
 * The thicknesses of a sheet's walls, the one that most speaks for first: where many long bands with nothing between them are as thick as one another. What
 * is as thick as twice a class with a line midway is none of its own.
 */
export function classesOf(
  bands: readonly Band[],
  near: number,
  penOf: (b: Band) => number,
): ThicknessClass[] {
  return classesFrom(
    bands.map((b) => ({ thickness: b.thickness, weight: weightOf(b) * Math.max(0.05, penOf(b)) })),
    near,
  );
}

/** Thicknesses put together where they are alike, by what speaks for each; the weightiest first. */
function classesFrom(of: readonly { thickness: number; weight: number }[], near: number): ThicknessClass[] {
  const weighed = of.filter((b) => b.weight > 0).sort((a, b) => a.thickness - b.thickness);
  const out: ThicknessClass[] = [];
  const left = new Set(weighed);
  while (left.size > 0 && out.length < MOST_CLASSES) {
    let best: { weight: number; of: typeof weighed } | null = null;
    const list = weighed.filter((w) => left.has(w));
    for (let i = 0, j = 0; i < list.length; i++) {
      const reach = Math.max(near, SAME_SHARE * list[i].thickness);
      while (list[i].thickness - list[j].thickness > reach) j++;
      const of = list.slice(j, i + 1),
        weight = of.reduce((s, w) => s + w.weight, 0);
      if (!best || weight > best.weight) best = { weight, of };
    }
    if (!best) break;
    const { weight, of } = best;
    out.push({ thickness: of.reduce((s, w) => s + w.weight * w.thickness, 0) / weight, weight });
    for (const w of of) left.delete(w);
  }
  const most = out[0]?.weight ?? 0;
  return out.filter((c) => c.weight >= LEAST_CLASS * most);
}
/** How much a thickness is that of a class, 0 to 1 of the most frequent. */
export const classOf = (classes: readonly ThicknessClass[], thickness: number, near: number): number =>
  Math.max(
    0,
    ...classes.map((c, i) =>
      Math.abs(c.thickness - thickness) <= Math.max(near, SAME_SHARE * c.thickness) ? 1 / (1 + 0.15 * i) : 0,
    ),
  );

const MOST_CLASSES = 8,
  LEAST_CLASS = 0.04;
/** A band counts as far as it is longer than it is thick. */
const LEAST_SLENDER = 1.2;

/** How much less sure a band is of which no, one, or both faces may be lines of hatches. */
export const HATCHED = [1, 0.6, 0.1] as const;

/** How much a band speaks for its thickness: its slender stretches, less where there is something between. */
export function weightOf({ both, thickness, crowded, alike, again, hatched }: Band): number {
  const slender = both.reduce(
    (sum, [a, b]: Span) => (b - a > LEAST_SLENDER * thickness ? sum + (b - a) : sum),
    0,
  );
  return slender * HATCHED[hatched] * (1 - 0.9 * crowded) * (1 - 0.95 * again) * (0.25 + 0.75 * alike);
}
