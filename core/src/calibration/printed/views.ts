import { boxOfPoints, MM_PER_POINT, type Box, type SheetPoint } from '../../geometry/index.ts';
import type { Linework } from '../../linework/index.ts';
import { lengthIn, type BareUnit, type Figure } from '../../units/index.ts';
import { agree, type Agreement, type Reading } from './consensus.ts';
import { differentLengths, type Stretch } from './line-pairs.ts';
import type { UnitEvidence } from './unit-evidence.ts';

const MOST_VIEWS = 8;
/** A view needs this many different lengths that agree; with a note that states the scale fewer do. */
const LEAST_DISTINCT = 3,
  LEAST_WITH_NOTE = 1,
  LEAST_FURTHER_WITH_NOTE = 2;
/** Where only witness lines end them, so many. */
const LEAST_UNSURE = 5;
/** From here on agreement is worth telling, though it proves nothing. */
const FEW = 2;
/** Views at scales nearer than this are one. */
const OTHER_SCALE = 0.04;
/** A scale that chance would make agree so often on such a page is none. */
const BY_CHANCE = 0.01;
/** The range of scales that figures could agree on (natural logarithm), and how near to one another agreeing votes lie. */
const SCALES = 9,
  TOGETHER = 0.002;
/** So many scales are usual or stated: a scale among them is less of an accident. */
const USUAL_SCALES = 40;

export const scaleOf = ({ fit }: Pick<Agreement, 'fit'>): number => Math.sqrt(fit.x * fit.y);
export const middleOf = (s: Pick<Stretch, 'from' | 'to'>): SheetPoint => [
  (s.from[0] + s.to[0]) / 2,
  (s.from[1] + s.to[1]) / 2,
];
export const distanceTo = ([x0, y0, x1, y1]: Box, [x, y]: SheetPoint) =>
  Math.hypot(Math.max(x0 - x, 0, x - x1), Math.max(y0 - y, 0, y - y1));

/** The scales on a page, the best supported first, each with the readings that agree on it. */
export function findViews(
  all: ReadonlyMap<number, Reading>,
  noted: readonly number[],
  evidence: UnitEvidence,
): {
  found: Agreement[];
  /** The first that agree, where they are too few to prove a scale. */ tooFew: Agreement | null;
} {
  const rest = new Map(all);
  const found: Agreement[] = [];
  let tooFew: Agreement | null = null,
    tries = 0;
  while (found.length < MOST_VIEWS && rest.size > 0 && tries < 2 * MOST_VIEWS) {
    tries++;
    const next = agree(rest, noted, evidence);
    if (!next) break;
    const first = found.length === 0;
    const enough = isProven(next, rest, noted, first);
    if (!enough && first && sureLengths(next) >= FEW) tooFew = next;
    if (!enough) break;
    if (!first && (!standsApart(next, found) || isMisread(next, found, rest))) {
      // Slips that agree by chance within another view are nobody's view; the rest may still hold one.
      for (const i of next.chosen.keys()) rest.delete(i);
      continue;
    }
    found.push(next);
    for (const i of next.chosen.keys()) rest.delete(i);
  }
  return { found, tooFew };
}

/** What stands farther than this from all that agrees, sheet points, belongs to something else on the page. */
const OUTSIDE = 40;
/** Figures of one detail stand this near to one another, sheet points. */
const ONE_DETAIL = 160;

export const isOutside = (p: SheetPoint, boxes: readonly Box[]): boolean =>
  boxes.every((b) => distanceTo(b, p) > OUTSIDE);

/** Places that lie together. */
export function clusters<T>(items: readonly T[], at: (item: T) => SheetPoint): T[][] {
  const groups: T[][] = [];
  for (const item of items) {
    const [x, y] = at(item),
      near = groups.filter((g) => g.some((o) => Math.hypot(at(o)[0] - x, at(o)[1] - y) < ONE_DETAIL));
    for (const g of near) groups.splice(groups.indexOf(g), 1);
    groups.push([...near.flat(), item]);
  }
  return groups;
}

/** Details apart from the views, with so few dimensions that only all of them together, on a usual or stated scale, prove one. */
export function findDetails(
  all: ReadonlyMap<number, Reading>,
  found: readonly Agreement[],
  noted: readonly number[],
  evidence: UnitEvidence,
): Agreement[] {
  const boxes = found.map(boxOf),
    out: Agreement[] = [];
  const left = [...all].filter(
    ([i, r]) =>
      !found.some((a) => a.chosen.has(i)) &&
      r.stretches[0].sure &&
      isOutside(middleOf(r.stretches[0]), boxes),
  );
  for (const group of clusters(left, ([, r]) => middleOf(r.stretches[0]))) {
    const own = new Map(group.map(([i, r]) => [i, { ...r, stretches: r.stretches.filter((s) => s.sure) }]));
    const next = agree(own, noted, evidence);
    if (!next || next.chosen.size < own.size || sureLengths(next) < FEW) continue;
    const scale = scaleOf(next),
      stated = noted.some((n) => Math.abs(n / scale - 1) < 0.03);
    if (
      (stated || isUsual(scale)) &&
      byChance(sureLengths(next), own, (s) => s.sure, stated ? 1 : USUAL_SCALES) < BY_CHANCE
    )
      out.push(next);
  }
  return out;
}

const sureLengths = ({ chosen }: Agreement) => differentLengths([...chosen.values()].filter((s) => s.sure));

function isProven(
  next: Agreement,
  readings: ReadonlyMap<number, Reading>,
  noted: readonly number[],
  first: boolean,
): boolean {
  const scale = scaleOf(next),
    stated = noted.some((n) => Math.abs(n / scale - 1) < 0.03);
  const sure = sureLengths(next);
  const leastNoted = first ? LEAST_WITH_NOTE : LEAST_FURTHER_WITH_NOTE,
    least = stated ? leastNoted : LEAST_DISTINCT;
  // Without ticks or arrows, lines of a table could be taken for witness lines: more of them must agree.
  // Of a picture nothing is proven without marks: every number stands between some lines.
  const seen =
    [...next.chosen.keys()].filter((i) => readings.get(i)?.recognised).length * 2 > next.chosen.size;
  const lengths = sure >= least ? sure : next.distinct >= LEAST_UNSURE && !seen ? next.distinct : 0;
  if (lengths === 0) return false;
  const counted = sure >= least ? (s: Stretch) => s.sure : () => true;
  return (
    byChance(lengths, readings, counted, stated ? 1 : isUsual(scale) ? USUAL_SCALES : SCALES / TOGETHER) <
    BY_CHANCE
  );
}

/** How often chance alone makes so many different lengths agree on one of so many scales. */
function byChance(
  lengths: number,
  readings: ReadonlyMap<number, Reading>,
  counted: (s: Stretch) => boolean,
  places: number,
): number {
  let votes = 0;
  for (const r of readings.values()) votes += differentLengths(r.stretches.filter(counted));
  return atLeast(lengths, (votes * TOGETHER) / SCALES) * places;
}

const isUsual = (scale: number) =>
  [1, 2, 2.5, 5, 12, 16, 2.4, 4.8, 9.6, 6.4, 3.2, 1.92].some((u) => {
    const decades = Math.log10(scale / u);
    return Math.abs(decades - Math.round(decades)) < 0.0013;
  });

/** Chance of `k` or more of what is expected `mean` times (Poisson). */
function atLeast(k: number, mean: number): number {
  let term = Math.exp(-mean),
    below = 0;
  for (let i = 0; i < k; i++) {
    below += term;
    term *= mean / (i + 1);
  }
  // Far out the sum is lost in rounding: the first term bounds the rest.
  return Math.max(1 - below, term);
}

/** Another view is drawn at another scale, in another place; slips among the first view's figures are neither. */
function standsApart(next: Agreement, found: readonly Agreement[]): boolean {
  const [x0, y0, x1, y1] = boxOfPoints([...next.chosen.values()].flatMap((s) => [s.from, s.to]));
  return found.every((other) => {
    const same = Math.abs(Math.log(scaleOf(next) / scaleOf(other))) < OTHER_SCALE;
    const middles = [...other.chosen.values()].map(middleOf);
    const within = middles.filter(([x, y]) => x >= x0 && x <= x1 && y >= y0 && y <= y1).length;
    return !same && within <= 0.25 * middles.length;
  });
}

/** A hundred times another view's scale, recognised: points between digits that were not seen. */
const MISREAD = 100,
  POWER_WITHIN = 0.005;
function isMisread(
  next: Agreement,
  found: readonly Agreement[],
  readings: ReadonlyMap<number, Reading>,
): boolean {
  const seen =
    [...next.chosen.keys()].filter((i) => readings.get(i)?.recognised).length * 2 > next.chosen.size;
  return (
    seen &&
    found.some((other) => {
      const powers = Math.log10(scaleOf(next) / scaleOf(other));
      return (
        Math.abs(powers) >= Math.log10(MISREAD) - POWER_WITHIN &&
        Math.abs(powers - Math.round(powers)) < POWER_WITHIN
      );
    })
  );
}

export const boxOf = ({ chosen }: Pick<Agreement, 'chosen'>): Box =>
  boxOfPoints([...chosen.values()].flatMap((s) => [s.from, s.to]));

/** One view has the page to itself; several share it, each reaching half-way to the next. */
export function regionsOf(
  boxes: readonly Box[],
  { width, height }: Pick<Linework, 'width' | 'height'>,
): Box[] {
  return boxes.map(([x0, y0, x1, y1], i) => {
    const region: [number, number, number, number] = [0, 0, width, height];
    boxes.forEach(([u0, v0, u1, v1], k) => {
      if (k === i) return;
      // The side on which the two are farthest apart parts them.
      const gaps = [u0 - x1, x0 - u1, v0 - y1, y0 - v1];
      const side = gaps.indexOf(Math.max(...gaps));
      if (side === 0) region[2] = Math.min(region[2], (x1 + u0) / 2);
      else if (side === 1) region[0] = Math.max(region[0], (x0 + u1) / 2);
      else if (side === 2) region[3] = Math.min(region[3], (y1 + v0) / 2);
      else region[1] = Math.max(region[1], (y0 + v1) / 2);
    });
    return region;
  });
}

export function nearest(regions: readonly Box[], p: SheetPoint): number {
  let best = -1;
  regions.forEach((r, i) => {
    if (best < 0 || distanceTo(r, p) < distanceTo(regions[best], p)) best = i;
  });
  return best;
}

/** What most figures of a view are in; centimetres where they are mixed with metres. */
export function unitOf({ units, chosen }: Agreement, figures: ReadonlyMap<number, Figure>): BareUnit {
  const counts = new Map<BareUnit, number>();
  for (const i of chosen.keys()) {
    const unit = saidUnit(figures.get(i)!) ?? units[figures.get(i)!.form === 'whole' ? 'whole' : 'decimal'];
    counts.set(unit, (counts.get(unit) ?? 0) + 1);
  }
  const some = (unit: BareUnit) => (counts.get(unit) ?? 0) > STRAYS * chosen.size;
  if (some('cm') && some('m')) return 'cm';
  if (some('ft')) return 'ft';
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'mm';
}

/** A few figures in another unit than a view's own agree with it by chance: levels, numbers, areas. */
const STRAYS = 0.1,
  MOST_STRAYS = 2;
const FAMILY: Record<BareUnit, string> = { mm: 'mm', cm: 'cm', m: 'm', in: 'in', ft: 'in' };

export function dropStrays(agreement: Agreement, figures: ReadonlyMap<number, Figure>): void {
  const { chosen, units } = agreement,
    unit = unitOf(agreement, figures);
  const family = (i: number) =>
    FAMILY[saidUnit(figures.get(i)!) ?? units[figures.get(i)!.form === 'whole' ? 'whole' : 'decimal']];
  const strays = [...chosen.keys()].filter(
    (i) => family(i) !== FAMILY[unit] && !(unit === 'cm' && family(i) === 'm'),
  );
  if (strays.length > MOST_STRAYS || strays.length > STRAYS * chosen.size) return;
  for (const i of strays) chosen.delete(i);
}

/** What was recognised and agrees beyond all others that do, among neighbours that do not, agrees by a misread point: 1025 for 102.5. */
const NEIGHBOURS = 120;
export function dropLone({ chosen }: Agreement, readings: ReadonlyMap<number, Reading>): void {
  const sure = [...readings]
    .filter(([, r]) => r.stretches[0]?.sure)
    .map(([i, r]) => ({ i, at: middleOf(chosen.get(i) ?? r.stretches[0]), agrees: chosen.has(i) }));
  const lone = [...chosen].filter(([i, s]) => {
    const [x, y] = middleOf(s),
      near = sure.filter((o) => o.i !== i && Math.hypot(o.at[0] - x, o.at[1] - y) < NEIGHBOURS);
    const others = [...chosen].filter(([k]) => k !== i).flatMap(([, o]) => [o.from, o.to]);
    return (
      readings.get(i)?.recognised &&
      others.length > 0 &&
      distanceTo(boxOfPoints(others), [x, y]) > 0 &&
      near.length > 0 &&
      near.every((o) => !o.agrees)
    );
  });
  for (const [i] of lone) chosen.delete(i);
}

function saidUnit(f: Figure): BareUnit | null {
  if (f.form !== 'said') return null;
  if (f.manner === 'raised') return 'cm';
  const metric = /(mm|cm|m)\.?$/i.exec(f.text.trim());
  if (metric && !/['"’”′″]/.test(f.text)) return metric[1].toLowerCase() as BareUnit;
  return /['’‘′`´]|ft|feet|foot/i.test(f.text.replace(/''/g, '"')) ? 'ft' : 'in';
}

/** The scale's length of a figure, millimetres, in a view's units. */
export const saysIn = (f: Figure, { units }: Pick<Agreement, 'units'>): number =>
  lengthIn(f, units.whole, units.decimal);
export const millimetresPerPoint = (a: Pick<Agreement, 'fit'>): number => MM_PER_POINT * scaleOf(a);
