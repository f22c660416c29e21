import { boxOfPoints, MM_PER_POINT, type Box, type SheetPoint } from '../../geometry/index.ts';
import { withInkLines, type PictureReading, type RecognisedText } from '../../ink/index.ts';
import type { Linework, PageText } from '../../linework/index.ts';
import { describeScale, lengthIn, readFigure, roundingIn, scaleNote, type BareUnit, type Figure } from '../../units/index.ts';
import { checkChains, type ChainCheck } from './chains.ts';
import { agree, tolerance, type Agreement, type Reading } from './consensus.ts';
import { lengthAt, type ViewFit } from './fit-view.ts';
import { StretchFinder, type Stretch } from './line-pairs.ts';
import { scaleBars } from './scale-bar.ts';

/** A part of a page that is drawn at one scale, as its printed dimensions say. Region in sheet points. */
export interface SheetView extends ViewFit { region: Box; /** True millimetres per paper millimetre. */ factor: number; agreeing: number; outliers: number; /** 0 to 1. */ confidence: number }

/** A printed length with the stretch it stands for; `index` is its number among the texts that were given. */
export interface PrintedDimension {
  index: number;
  text: string;
  millimetres: number;
  /** What rounding may have taken, millimetres. */
  half: number;
  from: SheetPoint;
  to: SheetPoint;
  /** Length on the sheet, points. */
  points: number;
  factor: number;
  view: number;
  agrees: boolean;
  /** What the view's scale makes of it, millimetres. */
  measured: number;
  recognised: boolean;
}

export interface PrintedNote { text: string; factor: number; view: number | null; bar: boolean }

export interface PrintedReading { /** The ends of dimensions were found in the pixels of a scan, not among the file's own lines. */ endsFromInk: boolean; views: SheetView[]; dimensions: PrintedDimension[]; notes: PrintedNote[]; chains: ChainCheck[]; /** Why there is no view. */ why: string | null }

export interface PrintedOptions {
  /** What bare numbers are in; found out where absent. */
  units?: BareUnit | null;
  /** What was recognised from outlines or pixels, beside what the file holds. */
  picture?: PictureReading | null;
  progress?: (share: number) => void;
}

type PrintedText = PageText & Partial<Pick<RecognisedText, 'clear' | 'confidence'>>;

const MOST_VIEWS = 8;
/** A view needs this many different lengths that agree; with a note that states the scale fewer do. */
const LEAST_DISTINCT = 3, LEAST_WITH_NOTE = 1;
/** From here on agreement is worth telling, though it proves nothing. */
const FEW = 2;
/** Views at scales nearer than this are one. */
const OTHER_SCALE = 0.04;
/** A disagreeing figure is only reported where it surely is a dimension. */
const SURE_SCORE = 0.5;
/** Without marks, a recognised figure's stretch must look at least so likely. */
const LEAST_SCORE = 0.12;
const SURE_CONFIDENCE = 88, LEAST_TRUST = 0.3, WELL_CENTRED = 0.08;
/** A slip of a recognised figure: points on the paper, and share of its length. */
const LEAST_SLIP = 3, LEAST_SLIP_SHARE = 0.02;
/** Wilder figures are no slips, but no dimensions at all. */
const WILDEST = Math.log(12);

/** Reads the printed dimensions of a page and the scales that they agree on. */
export function readPrinted(page: Linework, { units = null, picture = null, progress = () => {} }: PrintedOptions = {}): PrintedReading {
  const l = picture ? withInkLines(page, picture) : page;
  const texts: PrintedText[] = [...l.texts, ...(picture?.texts ?? []).filter((t) => !l.texts.some((own) => overlap(own, t)))];
  const finder = new StretchFinder(l, picture?.slack);
  progress(0.2);
  const figures = sameRounding(texts.map((t) => readFigure(t.text)));
  const readings = new Map<number, Reading>();
  let linear = 0;
  texts.forEach((t, i) => {
    const figure = figures[i];
    if (figure?.kind !== 'length') return;
    linear++;
    const own = i < l.texts.length;
    const stretches = finder.stretchesOf(t);
    if (stretches.length > 0) readings.set(i, { figure, stretches, recognised: !own, trust: own ? 1 : Math.max(LEAST_TRUST, t.confidence! / 110) });
    if (i % 64 === 0) progress(0.2 + (0.5 * i) / texts.length);
  });
  const notes = [
    ...texts.flatMap((t) => { const factor = scaleNote(t.text); return factor === null ? [] : [{ text: t.text, factor, at: [t.x, t.y] as SheetPoint, bar: false }]; }),
    ...scaleBars(texts).map((b) => ({ ...b, bar: true })),
  ];
  progress(0.7);
  const { found: agreements, tooFew } = views(readings, notes.map((n) => n.factor), units);
  progress(0.95);
  const regions = regionsOf(agreements.map((a) => boxOfPoints([...a.chosen.values()].flatMap((s) => [s.from, s.to]))), l);
  const dimensions = dimensionsOf(readings, agreements, regions, texts, l.texts.length);
  return {
    endsFromInk: (picture?.lines.length ?? 0) > 0,
    views: agreements.map((a, i) => viewOf(a, regions[i], dimensions.filter((d) => d.view === i))),
    dimensions,
    notes: notes.map(({ text, factor, at, bar }) => ({ text, factor, bar, view: viewOfNote(factor, at, agreements, regions) })),
    chains: checkChains(dimensions),
    why: agreements.length > 0 ? null : whyNone(texts, linear, readings.size, tooFew),
  };
}

/** A text of the file stands where one was recognised. */
function overlap(own: PageText, seen: PageText): boolean {
  const middle = (t: PageText): [number, number] => [t.x + (Math.cos(t.radians) * t.width) / 2, t.y + (Math.sin(t.radians) * t.width) / 2];
  const [ax, ay] = middle(own), [bx, by] = middle(seen);
  return Math.hypot(ax - bx, ay - by) < Math.max(own.height, Math.min(own.width, seen.width) / 2);
}

/** Figures of one form on a sheet are rounded alike: the finest tells. */
function sameRounding(figures: readonly (Figure | null)[]): (Figure | null)[] {
  const finest = new Map<string, number>();
  const keyOf = (f: Figure) => (f.form === 'said' ? (/['"’”′″]|in|ft|feet/i.test(f.text) ? 'inches' : 'metric') : f.form);
  for (const f of figures) if (f?.kind === 'length') finest.set(keyOf(f), Math.min(finest.get(keyOf(f)) ?? Infinity, f.half));
  return figures.map((f) => f && (f.kind === 'length' ? { ...f, half: finest.get(keyOf(f))! } : f));
}

/** The scales on a page, the best supported first, each with the readings that agree on it. */
function views(all: ReadonlyMap<number, Reading>, noted: readonly number[], given: BareUnit | null): { found: Agreement[]; /** The first that agree, where they are too few to prove a scale. */ tooFew: Agreement | null } {
  const rest = new Map(all);
  const found: Agreement[] = [];
  let tooFew: Agreement | null = null;
  while (found.length < MOST_VIEWS && rest.size > 0) {
    const next = agree(rest, noted, given);
    if (!next) break;
    const scale = Math.sqrt(next.fit.x * next.fit.y);
    const stated = noted.some((n) => Math.abs(n / scale - 1) < 0.03);
    const sure = new Set([...next.chosen.values()].filter((s) => s.sure).map((s) => s.points.toPrecision(3))).size;
    const first = found.length === 0;
    // Without ticks or arrows, lines of a table could be taken for witness lines: more of them must agree.
    const enough = sure >= (stated ? (first ? LEAST_WITH_NOTE : 2) : LEAST_DISTINCT) || next.distinct >= LEAST_DISTINCT + 2;
    if (!enough && first && sure >= FEW) tooFew = next;
    if (!enough || (!first && !standsApart(next, found))) break;
    found.push(next);
    for (const i of next.chosen.keys()) rest.delete(i);
  }
  return { found, tooFew };
}

/** Another view is drawn at another scale, in another place; slips among the first view's figures are neither. */
function standsApart(next: Agreement, found: readonly Agreement[]): boolean {
  const scale = Math.sqrt(next.fit.x * next.fit.y);
  const [x0, y0, x1, y1] = boxOfPoints([...next.chosen.values()].flatMap((s) => [s.from, s.to]));
  return found.every((other) => {
    const same = Math.abs(Math.log(scale / Math.sqrt(other.fit.x * other.fit.y))) < OTHER_SCALE;
    const middles = [...other.chosen.values()].map((s) => [(s.from[0] + s.to[0]) / 2, (s.from[1] + s.to[1]) / 2]);
    const within = middles.filter(([x, y]) => x >= x0 && x <= x1 && y >= y0 && y <= y1).length;
    return !same && within <= 0.25 * middles.length;
  });
}

const middleOf = (s: Pick<Stretch, 'from' | 'to'>): SheetPoint => [(s.from[0] + s.to[0]) / 2, (s.from[1] + s.to[1]) / 2];
const distanceTo = ([x0, y0, x1, y1]: Box, [x, y]: SheetPoint) => Math.hypot(Math.max(x0 - x, 0, x - x1), Math.max(y0 - y, 0, y - y1));

function dimensionsOf(readings: ReadonlyMap<number, Reading>, agreements: readonly Agreement[], regions: readonly Box[], texts: readonly PrintedText[], own: number): PrintedDimension[] {
  const out: PrintedDimension[] = [];
  const forms = agreements.map((a) => usualForm(a, readings));
  for (const [index, { figure, stretches }] of readings) {
    let view = agreements.findIndex((a) => a.chosen.has(index));
    const agrees = view >= 0;
    if (!agrees) view = nearest(regions, middleOf(stretches[0]));
    if (view < 0) continue;
    const { fit, units, chosen } = agreements[view];
    const millimetres = lengthIn(figure, units.whole, units.decimal), half = roundingIn(figure, units.whole, units.decimal);
    const stretch = chosen.get(index) ?? stretches.find((s) => s.sure);
    if (!stretch) continue;
    const measured = lengthAt(fit, stretch.from, stretch.to);
    // A number written otherwise than the sheet's dimensions, between lines without marks, is the number of something else.
    if (agrees && index >= own && !stretch.sure && (stretch.score < LEAST_SCORE || figure.form !== forms[view])) continue;
    if (!agrees && index >= own && !provesWrong(texts[index], stretch, Math.abs(millimetres - measured) / (MM_PER_POINT * Math.sqrt(fit.x * fit.y)))) continue;
    if (!agrees && (stretch.score < SURE_SCORE || Math.abs(Math.log(millimetres / measured)) > WILDEST)) continue;
    out.push({
      index, text: texts[index].text, millimetres, half, from: stretch.from, to: stretch.to, points: stretch.points, view, measured, recognised: index >= own,
      factor: millimetres / (stretch.points * MM_PER_POINT), agrees: agrees && Math.abs(measured - millimetres) <= tolerance(fit, half, millimetres),
    });
  }
  return out;
}

/**
 * Recognition misreads letters, and marks on a scan are missed: a recognised figure only shows an error where it is
 * surely whole and well read, stands in the middle of its stretch, and is off by what no pixel explains.
 */
function provesWrong(t: PrintedText, { from, to, points }: Stretch, off: number): boolean {
  if (!t.clear || t.confidence! < SURE_CONFIDENCE) return false;
  const along = ((t.x + (Math.cos(t.radians) * t.width) / 2 - from[0]) * (to[0] - from[0]) + (t.y + (Math.sin(t.radians) * t.width) / 2 - from[1]) * (to[1] - from[1])) / points ** 2;
  return Math.abs(along - 0.5) < WELL_CENTRED && off > Math.max(LEAST_SLIP, LEAST_SLIP_SHARE * points);
}

/** How most figures of a view are written. */
function usualForm({ chosen }: Agreement, readings: ReadonlyMap<number, Reading>): Figure['form'] {
  const counts = { said: 0, whole: 0, decimal: 0 };
  for (const i of chosen.keys()) counts[readings.get(i)!.figure.form]++;
  return (Object.keys(counts) as Figure['form'][]).reduce((a, b) => (counts[b] > counts[a] ? b : a));
}

function nearest(regions: readonly Box[], p: SheetPoint): number {
  let best = -1;
  regions.forEach((r, i) => { if (best < 0 || distanceTo(r, p) < distanceTo(regions[best], p)) best = i; });
  return best;
}

function viewOf({ fit }: Agreement, region: Box, own: readonly PrintedDimension[]): SheetView {
  const agreeing = own.filter((d) => d.agrees).length, outliers = own.length - agreeing;
  const distinct = new Set(own.filter((d) => d.agrees).map((d) => d.points.toPrecision(3))).size;
  const confidence = (1 - 0.5 ** distinct) * (agreeing / (agreeing + 0.5 * outliers));
  return { ...fit, region, factor: Math.sqrt(fit.x * fit.y), agreeing, outliers, confidence: Math.min(0.999, confidence) };
}

/** One view has the page to itself; several share it, each reaching half-way to the next. */
function regionsOf(boxes: readonly Box[], { width, height }: Linework): Box[] {
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

/** The view whose scale a note states; else the one in whose region it stands. */
function viewOfNote(factor: number, at: SheetPoint, agreements: readonly Agreement[], regions: readonly Box[]): number | null {
  const off = agreements.map(({ fit }) => Math.abs(Math.log(factor / Math.sqrt(fit.x * fit.y))));
  const best = off.indexOf(Math.min(...off));
  if (best >= 0 && off[best] < 0.15) return best;
  return regions.length === 0 ? null : nearest(regions, at);
}

function whyNone(texts: readonly PageText[], figures: number, paired: number, tooFew: Agreement | null): string {
  if (texts.length === 0) return 'The page has no texts that can be read: they are drawn as outlines or pixels, or there are none.';
  if (figures === 0) return 'No text of the page is a figure of a length.';
  if (paired === 0) return `${figures === 1 ? 'One text is a figure' : `${figures} texts are figures`}, but none stands at a dimension line.`;
  if (tooFew) return `${tooFew.distinct} figures agree on ${describeScale(Math.sqrt(tooFew.fit.x * tooFew.fit.y), false).text}, which is too few to prove a scale: take one of them as known and hold the other against it.`;
  return `${paired === 1 ? 'One figure stands' : `${paired} figures stand`} at what could be a dimension line, but they do not agree on a scale.`;
}
