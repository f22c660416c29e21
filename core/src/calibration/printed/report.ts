import { boxOfPoints, MM_PER_POINT, type Box, type SheetPoint } from '../../geometry/index.ts';
import { roundingIn, type Figure } from '../../units/index.ts';
import { tolerance, type Agreement, type Reading } from './consensus.ts';
import { lengthAt } from './fit-view.ts';
import type { Stretch, StretchFinder } from './line-pairs.ts';
import type { Rounds } from './rounds.ts';
import type { Standing } from './standing.ts';
import type { FigurePlace, PrintedDimension, PrintedText, UnknownPart } from './types.ts';
import {
  boxOf,
  clusters,
  isOutside,
  middleOf,
  millimetresPerPoint,
  nearest,
  saysIn,
  scaleOf,
} from './views.ts';

/** A disagreeing figure is only reported where it surely is a dimension. */
const SURE_SCORE = 0.5;
/** Without marks, a recognised figure's stretch must look at least so likely. */
const LEAST_SCORE = 0.12;
/** On a scale that so many others surely say, one whose marks are not seen counts where it stands in the middle of its stretch. */
const WELL_KNOWN = 6,
  CENTRED = 0.1;
const SURE_CONFIDENCE = 88,
  WELL_CENTRED = 0.08;
/** A slip of a recognised figure: points on the paper, and share of its length. */
const LEAST_SLIP = 3,
  LEAST_SLIP_SHARE = 0.02;
/** Wilder figures are no slips, but no dimensions at all. */
const WILDEST = Math.log(12);
/** A second figure that says the same as the first is the same length in another unit. */
const SAME_LENGTH = 0.02;

export interface Found {
  readings: ReadonlyMap<number, Reading>;
  agreements: readonly Agreement[];
  regions: readonly Box[];
  texts: readonly (PrintedText | null)[];
  figures: ReadonlyMap<number, Figure>;
  standing: readonly Standing[];
  finder: StretchFinder;
  rounds: Rounds;
  /** Figures that say a place from a datum. */
  ordinates: ReadonlySet<number>;
  /** How many of the texts are the file's own. */
  own: number;
}

/** All that the page prints of its measures: those that agree, slips, and those that are not to scale. */
export function reportDimensions(found: Found): { dimensions: PrintedDimension[]; unknown: UnknownPart[] } {
  const { dimensions, unknown } = straightDimensions(found);
  return { dimensions: [...dimensions, ...roundDimensions(found)], unknown };
}

const placeOf = ({ x, y, width, height, radians }: PrintedText): FigurePlace => ({
  x,
  y,
  width,
  height,
  radians,
});

/** Angles and lengths of arcs, where their arcs say the same. */
function roundDimensions({
  figures,
  texts,
  standing,
  agreements,
  regions,
  rounds,
  own,
}: Found): PrintedDimension[] {
  if (agreements.length === 0) return [];
  return [...figures].flatMap(([index, figure]): PrintedDimension[] => {
    if ((figure.kind !== 'angle' && figure.kind !== 'arc') || standing[index].table) return [];
    const t = texts[index]!,
      view = nearest(regions, [t.x, t.y]);
    const is =
      figure.kind === 'angle'
        ? rounds.angleOf(t, figure.degrees!)
        : rounds.arcOf(t, figure, agreements[view]);
    if (!is) return [];
    const millimetres = figure.kind === 'angle' ? 0 : saysIn(figure, agreements[view]);
    return [
      {
        index,
        text: t.text,
        kind: figure.kind,
        millimetres,
        ...(figure.kind === 'angle' && { degrees: figure.degrees }),
        half: figure.half,
        from: is.from,
        to: is.to,
        figure: placeOf(t),
        view,
        measured: is.measured,
        recognised: index >= own,
        points: Math.hypot(is.to[0] - is.from[0], is.to[1] - is.from[1]),
        factor: scaleOf(agreements[view]),
        agrees: true,
      },
    ];
  });
}

/** Where so many figures have a raised half, others may have lost theirs: up to so much, millimetres, as scans are measured. */
const MANY_RAISED = 3,
  LOST_HALF = 10;

/** The dimensions along straight lines. */
function straightDimensions(found: Found): { dimensions: PrintedDimension[]; unknown: UnknownPart[] } {
  const { readings, agreements, regions, texts, own, standing, finder, ordinates } = found;
  const out: PrintedDimension[] = [],
    apart: { at: SheetPoint; text: string }[] = [];
  const forms = agreements.map((a) => usualForm(a, readings)),
    boxes = agreements.map(boxOf);
  const sure = agreements.map((a) => [...a.chosen.values()].filter((s) => s.sure).length);
  const manners = agreements.map(
    (a) => new Manners([...a.chosen].map(([i, s]) => manner(texts[i]!, readings.get(i)!.figure, s))),
  );
  const raised = [...readings.values()].filter((r) => r.figure.manner === 'raised').length >= MANY_RAISED;
  for (const [index, reading] of readings) {
    const { figure, stretches } = reading,
      { underlined: free } = standing[index];
    let view = agreements.findIndex((a) => a.chosen.has(index));
    const agrees = view >= 0;
    if (!agrees) view = nearest(regions, middleOf(stretches[0]));
    if (view < 0) continue;
    const { fit, units, chosen } = agreements[view];
    const millimetres = saysIn(figure, agreements[view]),
      half = roundingIn(figure, units.whole, units.decimal);
    const stretch = chosen.get(index) ?? stretches.find((s) => s.sure);
    if (!stretch) continue;
    const measured = lengthAt(fit, stretch.from, stretch.to);
    // Of what is recognised a raised half is lost easily: a figure that is off by about one proves nothing wrong.
    if (
      !agrees &&
      raised &&
      index >= own &&
      figure.manner !== 'raised' &&
      Math.abs(measured - millimetres) < LOST_HALF
    )
      continue;
    // A number written otherwise than the sheet's dimensions, between lines without marks, is the number of something else.
    if (
      agrees &&
      index >= own &&
      !stretch.sure &&
      (figure.form !== forms[view] ||
        (stretch.score < LEAST_SCORE &&
          !(sure[view] >= WELL_KNOWN && manner(texts[index]!, figure, stretch).aside < CENTRED)))
    )
      continue;
    if (
      !agrees &&
      index >= own &&
      ![stretch.from, stretch.to].every((end) => [...chosen.values()].some((c) => goesOnAt(c, stretch, end)))
    )
      continue;
    // A short one that is off by much for its length is misread, however few pixels that is.
    if (
      agrees &&
      index >= own &&
      Math.abs(measured - millimetres) > Math.max(half, MISREAD_SHARE * millimetres)
    )
      continue;
    if (
      !agrees &&
      index >= own &&
      !provesWrong(
        texts[index]!,
        stretch,
        Math.abs(millimetres - measured) / millimetresPerPoint(agreements[view]),
      )
    )
      continue;
    // A leader may point past its curve: what disagrees there proves nothing.
    if (!agrees && (figure.kind === 'radius' || figure.kind === 'diameter')) continue;
    // A line that another figure agrees with is that one's: what stands by it as well is no length.
    if (!agrees && [...chosen.values()].some((c) => share(c, stretch) > MOST_SHARED)) continue;
    if (!agrees && !free && !manners[view].like(manner(texts[index]!, figure, stretch))) continue;
    if (!agrees && (stretch.score < SURE_SCORE || Math.abs(Math.log(millimetres / measured)) > WILDEST))
      continue;
    if (!agrees && !free && isOutside(middleOf(stretch), boxes)) {
      apart.push({ at: middleOf(stretch), text: texts[index]!.text });
      continue;
    }
    const height = heightOf(index, found, agreements[view]);
    out.push({
      index,
      text: texts[index]!.text,
      kind:
        figure.kind !== 'length'
          ? (figure.kind as 'diameter' | 'radius')
          : ordinates.has(index)
            ? 'ordinate'
            : finder.isEdge(stretch)
              ? 'boundary'
              : 'linear',
      millimetres,
      half,
      from: stretch.from,
      to: stretch.to,
      figure: placeOf(texts[index]!),
      points: stretch.points,
      view,
      measured,
      recognised: index >= own,
      factor: millimetres / (stretch.points * MM_PER_POINT),
      agrees: agrees && Math.abs(measured - millimetres) <= tolerance(fit, half, millimetres, reading.slack),
      ...(height !== null && Math.abs(height / millimetres - 1) > SAME_LENGTH && { height }),
      ...(free && { free }),
    });
  }
  return {
    dimensions: out,
    unknown: clusters(apart, (i) => i.at).map((g) => ({
      region: boxOfPoints(g.map((i) => i.at)),
      texts: g.map((i) => i.text),
    })),
  };
}

/** The second figure of an opening, millimetres. */
function heightOf(index: number, { standing, figures }: Found, agreement: Agreement): number | null {
  const second = figures.get(index)?.second;
  if (second) return saysIn(second, agreement);
  const below = standing.findIndex((s) => s.under === index);
  const figure = below < 0 ? undefined : figures.get(below);
  return figure && figure.kind === 'length' ? saysIn(figure, agreement) : null;
}

/**
 * Recognition misreads letters, and marks on a scan are missed: a recognised figure only shows an error where it is
 * surely whole and well read, stands in the middle of its stretch, and is off by what no pixel explains.
 */
function provesWrong(t: PrintedText, { from, to, points }: Stretch, off: number): boolean {
  if (!t.clear || t.confidence! < SURE_CONFIDENCE) return false;
  const along =
    ((t.x + (Math.cos(t.radians) * t.width) / 2 - from[0]) * (to[0] - from[0]) +
      (t.y + (Math.sin(t.radians) * t.width) / 2 - from[1]) * (to[1] - from[1])) /
    points ** 2;
  return Math.abs(along - 0.5) < WELL_CENTRED && off > Math.max(LEAST_SLIP, LEAST_SLIP_SHARE * points);
}

/** How a figure stands at its line: its form, whether along the line, how far off in its heights (upwards as it is read), how far from the middle. */
interface Manner {
  form: Figure['form'];
  level: boolean;
  off: number;
  aside: number;
}
/** A figure stands as its like do, to so many heights and so much of its stretch; and its form is not that of a few strays. */
const LIKE_OFF = 0.3,
  LIKE_ASIDE = 0.12,
  STRAYS = 0.1;
/** Two stretches of one line that have so much of the shorter in common are in one another's way. */
const MOST_SHARED = 0.3;

function manner(t: PrintedText, figure: Figure, { from, to, points }: Stretch): Manner {
  const c = Math.cos(t.radians),
    s = Math.sin(t.radians),
    mx = t.x + (c * t.width) / 2 - s * 0.35 * t.height,
    my = t.y + (s * t.width) / 2 + c * 0.35 * t.height;
  const ux = (to[0] - from[0]) / points,
    uy = (to[1] - from[1]) / points,
    along = (mx - from[0]) * ux + (my - from[1]) * uy,
    v = -(mx - from[0]) * uy + (my - from[1]) * ux;
  const way = ux * c + uy * s;
  return {
    form: figure.form,
    level: Math.abs(way) < 0.7,
    off: (v * (way < -0.7 ? -1 : 1)) / t.height,
    aside: Math.abs(along / points - 0.5),
  };
}

/** How the figures of a view that agree stand at their lines. */
class Manners {
  constructor(private readonly agreeing: readonly Manner[]) {}

  like(m: Manner): boolean {
    const alike = this.agreeing.filter((a) => a.level === m.level);
    return (
      alike.some((a) => Math.abs(a.off - m.off) < LIKE_OFF && m.aside < a.aside + LIKE_ASIDE) &&
      this.agreeing.filter((a) => a.form === m.form).length > STRAYS * this.agreeing.length
    );
  }
}

/** Of what was recognised so much of its length is no pixel's fault. */
const MISREAD_SHARE = 0.04;

/** Does one stretch go on where another ends? On a scan a mark is missed now and then: only between two that agree a figure is surely wrong. Picture points may miss by this, sheet points. */
const CHAINED = 2.5;
function goesOnAt(a: Stretch, b: Stretch, end: SheetPoint): boolean {
  const parallel =
    Math.abs((a.to[0] - a.from[0]) * (b.to[1] - b.from[1]) - (a.to[1] - a.from[1]) * (b.to[0] - b.from[0])) <
    0.03 * a.points * b.points;
  return parallel && [a.from, a.to].some((p) => Math.hypot(p[0] - end[0], p[1] - end[1]) < CHAINED);
}

/** How much of the shorter of two stretches on one line they have in common. */
function share(a: Stretch, b: Stretch): number {
  const ux = (a.to[0] - a.from[0]) / a.points,
    uy = (a.to[1] - a.from[1]) / a.points;
  const local = ([x, y]: SheetPoint) => [
    (x - a.from[0]) * ux + (y - a.from[1]) * uy,
    Math.abs(-(x - a.from[0]) * uy + (y - a.from[1]) * ux),
  ];
  const [p, q] = [local(b.from), local(b.to)];
  if (Math.max(p[1], q[1]) > SAME_LINE) return 0;
  return (
    (Math.min(a.points, Math.max(p[0], q[0])) - Math.max(0, Math.min(p[0], q[0]))) /
    Math.min(a.points, b.points)
  );
}
const SAME_LINE = 0.6;

/** How most figures of a view are written. */
function usualForm({ chosen }: Agreement, readings: ReadonlyMap<number, Reading>): Figure['form'] {
  const counts = { said: 0, whole: 0, decimal: 0 };
  for (const i of chosen.keys()) {
    const form = readings.get(i)?.figure.form;
    if (form) counts[form]++;
  }
  return (Object.keys(counts) as Figure['form'][]).reduce((a, b) => (counts[b] > counts[a] ? b : a));
}
