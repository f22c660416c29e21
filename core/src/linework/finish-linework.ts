import { flattenCubic, TAU, type Point } from '../geometry/index.ts';
import { circlesOfArcs } from './arcs-round.ts';
import { asCubic, type ItemStore, type ItemStores, type Taken } from './collector.ts';
import { contentOf } from './content.ts';
import { Covers, type Cover } from './covering.ts';
import type { GrowingInts } from './growing.ts';
import { recogniseKinds, takeKinds } from './kinds/recognise.ts';
import { withMarkups } from './markup-items.ts';
import type { PenTable } from './paint.ts';
import type { MarkupObject, PageLayer } from './page-objects.ts';
import { joinStackedFractions } from './stacked-fractions.ts';
import { strokedTwins } from './stroked-twins.ts';
import { patchesOf } from './patches.ts';
import { joinTexts } from './texts.ts';
import { kindCode, type LeftOut, type Linework, type PagePicture, type PageText } from './types.ts';

export interface InterpretOptions {
  /** Displayed page size in sheet points. */
  width: number;
  height: number;
  layers: readonly PageLayer[];
  /** Also keep what lies on layers that are off, and count it. */
  allLayers?: boolean;
  /** Objects name their kinds: hatches and dimensions are not looked for. */
  kindsAreKnown?: boolean;
  /** Hatches and dimensions are looked for afterwards (`recogniseKinds`), by whoever wants the lines first. */
  kindsLater?: boolean;
  /** Also keep what lies on layers that are off, so that they can be switched on later; it is not counted. */
  keepHidden?: boolean;
}

/** A text with its place in the paint order; hidden ones have -1 - n. */
export type OrderedText = PageText & { order: number };

/** What the objects of a page gave, in paint order, before what others cover is taken away. */
export interface Collected {
  options: InterpretOptions;
  stores: ItemStores;
  pens: PenTable;
  covers: readonly Cover[];
  texts: readonly OrderedText[];
  markups: readonly MarkupObject[];
  pictures: PagePicture[];
  objects: GrowingInts;
  /** Kinds that objects name themselves. */
  kinds: ReadonlyMap<number, number>;
  leftOut: LeftOut;
  anyHidden: boolean;
  /** The coarsest step that coordinates of this page's curves were rounded to, sheet points. */
  rounding: number;
  patternFills: number;
  fills: number;
  images: number;
}

const LINE = kindCode('line'),
  CURVE = kindCode('curve'),
  FILL = kindCode('fill');
/** Points along an arc that stand for it when asking what hides it. */
const ARC_PIECES = 16;

/** Is something on a layer that is off kept? Only where that layer, and not another round it, is what hides it. */
export function keepsHidden(
  { allLayers, keepHidden, layers }: Pick<InterpretOptions, 'allLayers' | 'keepHidden' | 'layers'>,
  layer: number,
): boolean {
  return allLayers === true || (keepHidden === true && layer >= 0 && !layers[layer].on);
}

/** The linework of a page: what shows of all that was collected. Changes `leftOut` and the pens of `c`. */
export function finishLinework(c: Collected): Linework {
  const { options } = c;
  const shown = visibleItems(c);
  const texts = visibleTexts(c);
  const layerSegments = segmentsByLayer(c);
  const counts = {
    segments: shown.segments.drawn,
    arcs: shown.arcs.drawn,
    circles: shown.circles.drawn,
    curves: shown.curves.drawn,
    fills: c.fills,
    texts: countOfTexts(c, texts),
    images: c.images,
  };
  const marked = withMarkups(shown.segments, shown.circles, c.markups, ({ width, colour }) =>
    c.pens.indexOf(width, { r: (colour >> 16) & 255, g: (colour >> 8) & 255, b: colour & 255, a: 255 }, []),
  );
  const linework: Linework = {
    width: options.width,
    height: options.height,
    segments: marked.segments.geometry,
    segmentStyle: marked.segments.style,
    segmentObject: marked.segments.object,
    segmentKind: allOf(marked.segments, LINE),
    arcs: shown.arcs.geometry,
    arcStyle: shown.arcs.style,
    arcObject: shown.arcs.object,
    arcKind: allOf(shown.arcs, CURVE),
    circles: marked.circles.geometry,
    circleStyle: marked.circles.style,
    circleObject: marked.circles.object,
    circleKind: allOf(marked.circles, CURVE),
    curves: shown.curves.geometry,
    curveStyle: shown.curves.style,
    curveObject: shown.curves.object,
    curveKind: allOf(shown.curves, CURVE),
    fillEdges: shown.fillEdges.geometry,
    fillEdgeStyle: shown.fillEdges.style,
    fillEdgeObject: shown.fillEdges.object,
    fillEdgeKind: allOf(shown.fillEdges, FILL),
    objects: c.objects.toArray(),
    hatches: c.patternFills,
    markups: c.markups.map(({ kind, author, comment, date, box, index }) => ({
      kind,
      author,
      comment,
      date,
      box,
      index,
    })),
    texts,
    pictures: c.pictures,
    pens: c.pens.pens,
    layers: options.layers.map((l, i) => ({ ...l, segments: layerSegments[i] })),
    counts,
    leftOut: c.leftOut,
    content: contentOf(counts, c.pictures, options.width * options.height, shown.fillEdges.geometry.length),
  };
  const patches = patchesOf(c.covers, texts, options);
  if (patches.length > 0) linework.patches = patches;
  if (options.kindsAreKnown) takeKinds(linework, c.kinds);
  else if (!options.kindsLater) recogniseKinds(linework);
  return linework;
}

const allOf = (taken: Taken, kind: number) => new Uint8Array(taken.object.length).fill(kind);

/** Is an item hidden, given its paint order and the width of its pen? */
type Hides = (i: number, order: number, width: number) => boolean;

/** The items that nothing covers, circles and arcs put together where they are one. */
function visibleItems({ options, stores, pens, covers, leftOut, anyHidden, rounding }: Collected) {
  const later = new Covers(covers),
    covered = covers.some((c) => c.opaque);
  const keepVisible = (store: ItemStore, hides: Hides, twin?: (i: number) => boolean) => {
    if (!covered && !twin && !anyHidden) return store.takeAll();
    return store.take((i, order) => {
      if (twin?.(i)) return false;
      if (order < 0) return keepsHidden(options, store.style.at(2 * i));
      const pen = store.style.at(2 * i + 1);
      if (!covered || !hides(i, order, pen < 0 ? 0 : pens.pens[pen].width)) return true;
      leftOut.covered++;
      return false;
    }, options.allLayers === true);
  };
  const hiddenLine =
    (store: ItemStore): Hides =>
    (i, order, width) => {
      const g = store.geometry;
      return later.hides(order, width, g.at(4 * i), g.at(4 * i + 1), g.at(4 * i + 2), g.at(4 * i + 3));
    };
  const hiddenCurve =
    (points: (i: number) => readonly Point[]): Hides =>
    (i, order, width) => {
      const p = points(i);
      return p.every((q, k) => k === 0 || later.hides(order, width, p[k - 1][0], p[k - 1][1], q[0], q[1]));
    };
  const { segments, arcs, circles, curves, fillEdges } = stores;
  const arcAt = (i: number) => {
    const g = arcs.geometry;
    return alongArc(g.at(5 * i), g.at(5 * i + 1), g.at(5 * i + 2), g.at(5 * i + 3), g.at(5 * i + 4));
  };
  const circleAt = (i: number) => {
    const g = circles.geometry;
    return alongArc(g.at(3 * i), g.at(3 * i + 1), g.at(3 * i + 2), 0, TAU);
  };
  const curveAt = (i: number) => flattenCubic(asCubic(curves.geometry.view(), 8 * i), 8);
  const stroked = strokedTwins(fillEdges.geometry.view(), segments.geometry.view());
  return {
    segments: keepVisible(segments, hiddenLine(segments)),
    ...circlesOfArcs(
      keepVisible(arcs, hiddenCurve(arcAt)),
      keepVisible(circles, hiddenCurve(circleAt)),
      rounding,
    ),
    curves: keepVisible(curves, hiddenCurve(curveAt)),
    fillEdges: keepVisible(fillEdges, hiddenLine(fillEdges), (i) => stroked[i] === 1),
  };
}

/** The texts that nothing covers, put together where a file sets one in pieces. */
function visibleTexts({ options, texts, covers, leftOut }: Collected): PageText[] {
  const later = new Covers(covers),
    covered = covers.some((c) => c.opaque);
  const shown = texts.filter((t) => {
    if (t.order < 0) return keepsHidden(options, t.layer);
    const [x0, y0, x1, y1] = middleLine(t);
    if (!covered || !later.hides(t.order, 0, x0, y0, x1, y1)) return true;
    leftOut.covered++;
    return false;
  });
  return joinStackedFractions(joinTexts(shown));
}

/** The line through the middle of a text's letters: it stands for the text when asking what hides it. */
export function middleLine(t: Pick<PageText, 'x' | 'y' | 'height' | 'radians' | 'width'>) {
  const ux = Math.cos(t.radians),
    uy = Math.sin(t.radians),
    x = t.x - uy * t.height * 0.35,
    y = t.y + ux * t.height * 0.35;
  return [x, y, x + ux * t.width, y + uy * t.width] as const;
}

/** Texts that count: not those on layers that are off, unless all layers were asked for. */
function countOfTexts({ options, texts }: Collected, shown: readonly PageText[]): number {
  if (options.allLayers) return shown.length;
  const hidden = new Set(texts.filter((t) => t.order < 0).map((t) => t.object));
  return shown.filter((t) => !hidden.has(t.object)).length;
}

/** How many segments each layer has, pieces of one that a clip cut counted once. */
function segmentsByLayer({ options, stores: { segments } }: Collected): number[] {
  const counts = options.layers.map(() => 0);
  for (let i = 0; i < segments.count; i++) {
    const layer = segments.style.at(2 * i);
    const listed = segments.order.at(2 * i) >= 0 || keepsHidden(options, layer);
    if (layer >= 0 && listed && segments.order.at(2 * i + 1) === 0) counts[layer]++;
  }
  return counts;
}

function alongArc(cx: number, cy: number, r: number, start: number, end: number): Point[] {
  return Array.from({ length: ARC_PIECES + 1 }, (_, k): Point => {
    const a = start + ((end - start) * k) / ARC_PIECES;
    return [cx + r * Math.cos(a), cy + r * Math.sin(a)];
  });
}
