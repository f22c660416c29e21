import type { SheetPoint } from '../../geometry/index.ts';
import { withInkLines } from '../../ink/index.ts';
import { emptyLinework, type Linework, type PageText } from '../../linework/index.ts';
import { describeScale, readFigure, scaleNote, type Figure } from '../../units/index.ts';
import { checkChains } from './chains.ts';
import { refitted, type Agreement, type Reading } from './consensus.ts';
import { differentLengths, StretchFinder } from './line-pairs.ts';
import { moveHome } from './moved.ts';
import { onPhoto } from './on-photo.ts';
import { ordinates } from './ordinates.ts';
import { joinRaised } from './raised.ts';
import { reportDimensions } from './report.ts';
import { Rounds } from './rounds.ts';
import { runningDimensions } from './running.ts';
import { scaleBars, type ScaleBar } from './scale-bar.ts';
import { standings } from './standing.ts';
import type { PrintedDimension, PrintedOptions, PrintedReading, PrintedText, SheetView } from './types.ts';
import { unitEvidence } from './unit-evidence.ts';
import { unitNoted } from './unit-notes.ts';
import {
  boxOf,
  dropLone,
  dropStrays,
  findDetails,
  findViews,
  nearest,
  regionsOf,
  scaleOf,
  unitOf,
} from './views.ts';

const LEAST_TRUST = 0.3;
/** In heights of the figure. */
const SHORTEST_SEEN = 0.7;
/** A view of which some were taken out needs so many that are left. */
const FEW_LEFT = 2;
/** Both ends of a stretch may miss. */
const SLACKS = 1.4;
/** Graphic scales of one page may differ by this share; and how sure one is. */
const SAME_BAR = 0.004,
  BAR_CONFIDENCE = 0.9;
/** How sure a scale may be said to be whose unit must be asked. */
const ASKED_CONFIDENCE = 0.3;

/** Reads the printed dimensions of a page and the scales that they agree on. */
export function readPrinted(page: Linework, options: PrintedOptions = {}): PrintedReading {
  const straight = options.picture?.straight;
  return straight
    ? onPhoto(readFlat(emptyLinework(straight.width, straight.height), options), straight)
    : readFlat(page, options);
}

function readFlat(
  page: Linework,
  { units = null, picture = null, progress = () => {} }: PrintedOptions,
): PrintedReading {
  const l = picture ? withInkLines(page, picture) : page;
  const own = l.texts.length;
  const given: PrintedText[] = [
    ...l.texts,
    ...(picture?.texts ?? []).filter((t) => !l.texts.some((o) => overlap(o, t))),
  ];
  const texts = joinRaised(given);
  const figures = new Map<number, Figure>();
  sameRounding(texts.map((t) => t && readFigure(t.text))).forEach((f, i) => {
    if (f) figures.set(i, f);
  });
  const standing = standings(texts, l, new Set(figures.keys()), picture?.slack);
  const finder = new StretchFinder(l, picture?.slack);
  progress(0.2);
  const bars = scaleBars(texts, l),
    inBar = new Set(bars.flatMap((b) => b.texts));
  const rounds = new Rounds(l, finder),
    placed = new Map([...ordinates(texts, l), ...runningDimensions(texts, l, finder)]);
  const readings = new Map<number, Reading>(),
    free = new Map<number, Reading>();
  let lengths = 0,
    done = 0;
  for (const [i, figure] of figures) {
    if (done++ % 64 === 0) progress(0.2 + (0.5 * done) / figures.size);
    const { table, ringed, under, underlined } = standing[i];
    if (figure.kind === 'angle' || figure.kind === 'arc') continue;
    if (figure.kind === 'length') lengths++;
    if (ringed || under !== null || inBar.has(i)) continue;
    const t = texts[i]!;
    // In a table, or with a sign of a round thing, only what surely ends in marks is a length along a line.
    const ordinate = placed.get(i);
    const found = ordinate
      ? [ordinate]
      : figure.kind === 'length'
        ? finder.stretchesOf(t)
        : [
            ...(figure.kind === 'diameter' ? finder.stretchesOf(t) : []),
            ...rounds.stretchesOf(t, figure.kind),
          ];
    // What was recognised beside a stretch no longer than a letter is part of something else.
    const stretches = found.filter(
      (s) =>
        (s.sure || !(table || figure.kind !== 'length')) && (i < own || s.points >= SHORTEST_SEEN * t.height),
    );
    if (stretches.length > 0)
      (underlined ? free : readings).set(i, {
        figure,
        stretches,
        recognised: i >= own,
        trust: i < own ? 1 : Math.max(LEAST_TRUST, t.confidence! / 110),
        slack: SLACKS * (picture?.slack ?? 0),
      });
  }
  const notes = notesOf(texts, bars);
  progress(0.7);
  const evidence = unitEvidence(
      [...figures].flatMap(([i, f]) => (standing[i].table || standing[i].ringed ? [] : [f])),
      unitNoted(given),
      units,
    ),
    noted = notes.map((n) => n.factor);
  const { found, tooFew } = findViews(readings, noted, evidence);
  const agreements = (
    found.length === 0 ? found : [...found, ...findDetails(readings, found, noted, evidence)]
  ).flatMap((a) => {
    const before = a.chosen.size;
    dropStrays(a, figures);
    dropLone(a, readings);
    // What rested on chance alone is no view without it.
    return a.chosen.size === before ? [a] : a.chosen.size >= FEW_LEFT ? [refitted(a, readings)] : [];
  });
  progress(0.9);
  const regions = regionsOf(agreements.map(boxOf), l);
  if (agreements.length > 0) {
    const homeless = new Map(
      [...figures].filter(
        ([i, f]) =>
          f.kind === 'length' &&
          !standing[i].table &&
          !standing[i].ringed &&
          standing[i].under === null &&
          !standing[i].underlined &&
          !inBar.has(i) &&
          !agreements.some((a) => a.chosen.has(i)),
      ),
    );
    moveHome(homeless, texts, finder, agreements, (p) => nearest(regions, p)).forEach((offers, view) => {
      for (const { index, stretch } of offers) {
        agreements[view].chosen.set(index, stretch);
        readings.set(index, {
          figure: figures.get(index)!,
          stretches: [stretch],
          recognised: index >= own,
          trust: 1,
        });
      }
    });
  }
  const { dimensions, unknown } = reportDimensions({
    readings: new Map([...readings, ...free]),
    agreements,
    regions,
    texts,
    figures,
    standing,
    finder,
    rounds,
    ordinates: new Set(placed.keys()),
    own,
  });
  const byBar = agreements.length === 0 ? barView(bars, l) : null;
  return {
    endsFromInk: (picture?.lines.length ?? 0) > 0,
    views: byBar
      ? [byBar]
      : agreements.map((a, i) =>
          viewOf(
            a,
            regions[i],
            dimensions.filter((d) => d.view === i && !d.free),
            figures,
          ),
        ),
    dimensions,
    notes: notes.map(({ text, factor, at, bar, span }) => ({
      text,
      factor,
      bar,
      ...(bar && { span }),
      view: byBar ? 0 : viewOfNote(factor, at, agreements, regions),
    })),
    chains: checkChains(dimensions.map((d) => (d.free ? { ...d, view: -1 } : d))),
    unknown,
    photo: null,
    why: agreements.length > 0 || byBar ? null : whyNone(given, lengths, readings.size, tooFew),
  };
}

const notesOf = (texts: readonly (PrintedText | null)[], bars: readonly ScaleBar[]) => [
  ...texts.flatMap((t) => {
    const factor = t && scaleNote(t.text);
    return factor ? [{ text: t.text, factor, at: [t.x, t.y] as SheetPoint, bar: false, span: null }] : [];
  }),
  ...bars.map((b) => ({ ...b, bar: true })),
];

/** A page without dimensions is as its graphic scale says, where that is read from its ticks; several must say the same. */
function barView(bars: readonly ScaleBar[], { width, height }: Linework): SheetView | null {
  const exact = bars.filter((b) => b.exact),
    [first] = exact;
  if (!first || exact.some((b) => Math.abs(b.factor / first.factor - 1) > SAME_BAR)) return null;
  const { factor, uncertainty, unit } = exact.reduce((a, b) => (b.uncertainty < a.uncertainty ? b : a));
  return {
    x: factor,
    y: factor,
    stretched: false,
    uncertainty,
    noise: 0,
    region: [0, 0, width, height],
    factor,
    from: 'bar',
    unit,
    rivals: [],
    agreeing: 0,
    outliers: 0,
    confidence: BAR_CONFIDENCE,
  };
}

/** A text of the file stands where one was recognised. */
function overlap(own: PageText, seen: PageText): boolean {
  const middle = (t: PageText): [number, number] => [
    t.x + (Math.cos(t.radians) * t.width) / 2,
    t.y + (Math.sin(t.radians) * t.width) / 2,
  ];
  const [ax, ay] = middle(own),
    [bx, by] = middle(seen);
  return Math.hypot(ax - bx, ay - by) < Math.max(own.height, Math.min(own.width, seen.width) / 2);
}

/** Figures of one form on a sheet are rounded alike: the finest tells. Where halves are raised, a bare one is rounded to a half. */
function sameRounding(figures: readonly (Figure | null)[]): (Figure | null)[] {
  const finest = new Map<string, number>();
  const saidIn = (text: string) => (/['"’”′″/⁄½¼¾⅛⅜⅝⅞]|in|ft|feet/i.test(text) ? 'inches' : 'metric');
  const keyOf = (f: Figure) =>
    f.manner === 'raised' ? 'raised' : f.form === 'said' ? saidIn(f.text) : f.form;
  const raised = figures.some((f) => f?.manner === 'raised');
  for (const f of figures)
    if (f?.kind === 'length') finest.set(keyOf(f), Math.min(finest.get(keyOf(f)) ?? Infinity, f.half));
  return figures.map(
    (f) =>
      f &&
      (f.kind === 'length'
        ? { ...f, half: finest.get(keyOf(f))! * (raised && f.form !== 'said' ? 0.5 : 1) }
        : f),
  );
}

function viewOf(
  agreement: Agreement,
  region: SheetView['region'],
  own: readonly PrintedDimension[],
  figures: ReadonlyMap<number, Figure>,
): SheetView {
  const agreeing = own.filter((d) => d.agrees).length,
    outliers = own.length - agreeing;
  const distinct = differentLengths(own.filter((d) => d.agrees));
  const confidence = (1 - 0.5 ** distinct) * (agreeing / (agreeing + 0.5 * outliers)),
    asked = agreement.rivals.length > 0,
    unit = unitOf(agreement, figures);
  const factor = scaleOf(agreement);
  return {
    ...agreement.fit,
    region,
    factor,
    from: 'dimensions',
    unit: asked ? null : unit,
    rivals: asked ? [{ unit, factor }, ...agreement.rivals] : [],
    agreeing,
    outliers,
    confidence: Math.min(asked ? ASKED_CONFIDENCE : 0.999, confidence),
  };
}

/** The view whose scale a note states; else the one in whose region it stands. */
function viewOfNote(
  factor: number,
  at: SheetPoint,
  agreements: readonly Agreement[],
  regions: readonly SheetView['region'][],
): number | null {
  const off = agreements.map((a) => Math.abs(Math.log(factor / scaleOf(a))));
  const best = off.indexOf(Math.min(...off));
  if (best >= 0 && off[best] < 0.15) return best;
  return regions.length === 0 ? null : nearest(regions, at);
}

function whyNone(
  texts: readonly PageText[],
  figures: number,
  paired: number,
  tooFew: Agreement | null,
): string {
  if (texts.length === 0)
    return 'The page has no texts that can be read: they are drawn as outlines or pixels, or there are none.';
  if (figures === 0) return 'No text of the page is a figure of a length.';
  if (paired === 0)
    return `${figures === 1 ? 'One text is a figure' : `${figures} texts are figures`}, but none stands at a dimension line.`;
  if (tooFew)
    return `${tooFew.distinct} figures agree on ${describeScale(scaleOf(tooFew), false).text}, which is too few to prove a scale: take one of them as known and hold the other against it.`;
  return `${paired === 1 ? 'One figure stands' : `${paired} figures stand`} at what could be a dimension line, but they do not agree on a scale.`;
}
