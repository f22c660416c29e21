import {
  applyTransform,
  boxesTouch,
  boxOfPoints,
  cubicAt,
  cubicBox,
  cubicPart,
  flattenCubic,
  makeRegion,
  normalAngle,
  ringArea,
  TAU,
  type Box,
  type Cubic,
  type Interval,
  type Point,
  type Region,
} from '../geometry/index.ts';
import { asCubic, ItemStores, type ItemStore, type Taken } from './collector.ts';
import { liesOnInk, Covers, type Cover } from './covering.ts';
import { isPaper, PenTable } from './paint.ts';
import {
  CLOSE,
  Verb,
  type ImageObject,
  type MarkupObject,
  type PageLayer,
  type PageSink,
  type PathObject,
  type RoundObject,
  type TextObject,
} from './page-objects.ts';
import { circlesOfArcs } from './arcs-round.ts';
import { recogniseRun, type Recognised } from './recognise-arcs.ts';
import { roundingOf } from './rounding.ts';
import { contentOf } from './content.ts';
import { GrowingInts } from './growing.ts';
import { recogniseKinds, takeKinds } from './kinds/recognise.ts';
import { countPieces, flattenPath } from './flatten-path.ts';
import { withMarkups } from './markup-items.ts';
import { HIDDEN_BY_OTHERS } from './switches.ts';
import { strokedTwins } from './stroked-twins.ts';
import { joinStackedFractions } from './stacked-fractions.ts';
import { joinTexts } from './texts.ts';
import { kindCode, type LeftOut, type Linework, type PagePicture, type PageText } from './types.ts';
import {
  prepareClip,
  showsWhole,
  visibleCurveIntervals,
  visibleIntervals,
  type Clip,
} from './visible-parts.ts';

/** Where the pieces of the path at hand go; one record, used again for every path. */
interface PieceTarget {
  store: ItemStore;
  clip: Clip;
  order: number;
  layer: number;
  /** -1: the edges of a fill. */ pen: number;
  paper: boolean;
}

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

/** A stroked or filled piece shorter than this (sheet points) is a dot, not a line. */
const ZERO_LENGTH = 1e-4;
/** Arcs of filled shapes below this radius are the rounds of letters drawn as outlines, not geometry. */
const LETTER_RADIUS = 6;
/** A fill smaller than this many square points covers nothing that a person would miss. */
const SMALLEST_COVER = 4;
const CLIP_CACHE_LIMIT = 512;
const LINE = kindCode('line'),
  CURVE = kindCode('curve'),
  FILL = kindCode('fill'),
  TEXT = kindCode('text'),
  PICTURE = kindCode('picture');
const objectNumber = (order: number) => (order < 0 ? -1 - order : order);

/**
 * Turns page objects, in paint order, into linework: recognises arcs and circles, cuts what a clip
 * hides in part, and leaves out what a person cannot see, counting why.
 */
export class PageInterpreter implements PageSink {
  private readonly page: Box;
  private readonly stores = new ItemStores();
  private readonly pens = new PenTable();
  private readonly covers: Cover[] = [];
  private readonly texts: (PageText & { order: number })[] = [];
  private readonly markups: MarkupObject[] = [];
  private readonly objects = new GrowingInts(3 * 4096);
  private patternFills = 0;
  /** Kinds that objects name themselves. */
  private readonly kinds = new Map<number, number>();
  private readonly pictures: PagePicture[] = [];
  /** The coarsest step that coordinates of this page's curves were rounded to, sheet points. */
  private rounding = 0;
  private readonly leftOut: LeftOut = {
    clipped: 0,
    outside: 0,
    zeroLength: 0,
    unpainted: 0,
    paperColoured: 0,
    covered: 0,
  };
  private readonly clips = new Map<readonly Region[], Clip>();
  private readonly target: PieceTarget = {
    store: this.stores.segments,
    clip: prepareClip([], [0, 0, 0, 0]),
    order: 0,
    layer: -1,
    pen: -1,
    paper: false,
  };
  private order = 0;
  private anyHidden = false;
  private fills = 0;
  private images = 0;

  constructor(private readonly options: InterpretOptions) {
    this.page = [0, 0, options.width, options.height];
  }

  path(object: PathObject): void {
    const order = this.nextOrder(object);
    const strokes = object.stroke !== null;
    const strokeShows = strokes && object.stroke!.a > 0;
    const fillShows = object.fill !== 'none' && (object.fillColour === null || object.fillColour.a > 0);
    if (!strokeShows && !fillShows) {
      this.leftOut.unpainted += countPieces(object);
      return;
    }
    const pen = strokeShows ? this.pens.indexOf(object.strokeWidth, object.stroke!, object.dash) : -1;
    this.note(order, object.layer, pen, fillShows && !strokeShows ? FILL : LINE);
    const clip = this.clipFor(object.clips);
    const { target } = this;
    target.clip = clip;
    target.order = order;
    target.layer = object.layer;
    target.store = strokeShows ? this.stores.segments : this.stores.fillEdges;
    target.pen = pen;
    const colour = strokeShows ? object.stroke : object.fillColour;
    target.paper = colour !== null && isPaper(colour);
    this.walk(object, !strokeShows, target);
    if (fillShows) this.addFill(object, clip, order);
    if (fillShows && object.pattern === 'tiling' && order >= 0) this.patternFills++;
  }

  text(object: TextObject): void {
    const order = this.nextOrder(object);
    if (object.text.trim() === '') return;
    if (object.invisible || object.colour?.a === 0) {
      this.leftOut.unpainted++;
      return;
    }
    const m = object.matrix;
    const height = object.size * Math.hypot(m[2], m[3]);
    const { width } = object;
    const radians = Math.atan2(m[1], m[0]);
    const [ux, uy] = [Math.cos(radians), Math.sin(radians)];
    // The line through the middle of the letters stands for the text when asking what hides it.
    const x0 = m[4] - uy * height * 0.35,
      y0 = m[5] + ux * height * 0.35;
    const parts = visibleIntervals(this.clipFor(object.clips), x0, y0, x0 + ux * width, y0 + uy * width);
    if (parts.length === 0) {
      this.countHidden(x0, y0, x0 + ux * width, y0 + uy * width);
      return;
    }
    if (
      object.colour &&
      isPaper(object.colour) &&
      !liesOnInk(this.covers, x0, y0, x0 + ux * width, y0 + uy * width)
    ) {
      this.leftOut.paperColoured++;
      return;
    }
    this.note(order, object.layer, -1, TEXT);
    this.texts.push({
      text: object.text,
      object: objectNumber(order),
      kind: TEXT,
      x: m[4],
      y: m[5],
      height,
      radians,
      layer: object.layer,
      width,
      order,
    });
  }

  image(object: ImageObject): void {
    const order = this.nextOrder(object);
    if (object.hidden && !this.keeps(object.layer)) {
      this.note(order, object.layer, -1, PICTURE);
      return;
    }
    if (object.transparent) {
      this.leftOut.unpainted++;
      return;
    }
    const corners = (
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as Point[]
    ).map((p) => applyTransform(object.matrix, p));
    const clip = this.clipFor(object.clips);
    const shown = intersectBoxes(boxOfPoints(corners), clip.box);
    if (!shown) {
      this.leftOut.outside++;
      return;
    }
    const turned = Math.abs(ringArea(corners));
    this.note(order, object.layer, -1, PICTURE);
    if (!object.hidden || this.options.allLayers) this.images++;
    this.pictures.push({
      object: objectNumber(order),
      layer: object.layer,
      corners,
      area: Math.min(turned, (shown[2] - shown[0]) * (shown[3] - shown[1])),
      ...(object.pixels && { pixels: object.pixels }),
    });
    if (!object.hidden) {
      // A picture may have holes that the engine does not tell of: it is ink for white lines, but hides nothing.
      this.covers.push({
        order,
        regions: [makeRegion([corners], 'nonzero'), ...object.clips],
        box: shown,
        paper: false,
        opaque: false,
      });
    }
  }

  /** A circle or arc that its source names as one. */
  round(object: RoundObject): void {
    const order = this.nextOrder(object);
    const pen = this.pens.indexOf(object.strokeWidth, object.stroke, object.dash);
    this.note(order, object.layer, pen, LINE);
    const { target } = this;
    target.clip = this.clipFor(object.clips);
    target.order = order;
    target.layer = object.layer;
    target.pen = pen;
    target.paper = isPaper(object.stroke);
    if (object.end - object.start >= TAU - 1e-12)
      this.addShape({ kind: 'circle', circle: { cx: object.cx, cy: object.cy, r: object.r } }, target);
    else
      this.addShape(
        {
          kind: 'arc',
          arc: { cx: object.cx, cy: object.cy, r: object.r, start: object.start, end: object.end },
        },
        target,
      );
  }

  markup(object: MarkupObject): void {
    this.markups.push(object);
  }

  /** What an object is, for switching it off as a whole. */
  private note(order: number, layer: number, pen: number, kind: number): void {
    const n = objectNumber(order);
    while (this.objects.length < 3 * n) this.objects.push3(-1, -1, -1);
    if (this.objects.length > 3 * n) return;
    // What a layer round it hides stays hidden, whatever its own layer does.
    if (order < 0 && !this.keeps(layer)) this.objects.push3(-1, -1, HIDDEN_BY_OTHERS);
    else this.objects.push3(layer, pen, kind);
  }

  /** Is something on a layer that is off kept? Only where that layer, and not another round it, is what hides it. */
  private keeps(layer: number): boolean {
    const { allLayers, keepHidden, layers } = this.options;
    return allLayers === true || (keepHidden === true && layer >= 0 && !layers[layer].on);
  }

  /** The finished linework. Call once, after the last object. */
  finish(): Linework {
    const { options, stores } = this;
    const later = new Covers(this.covers);
    const pens = this.pens.pens;
    const layerSegments = options.layers.map(() => 0);
    const covered = this.covers.some((c) => c.opaque);
    const keepVisible = (
      store: ItemStore,
      hidden: (i: number, order: number, width: number) => boolean,
      twin?: (i: number) => boolean,
    ) =>
      !covered && !twin && !this.anyHidden
        ? store.takeAll()
        : store.take((i, order) => {
            if (twin?.(i)) return false;
            if (order < 0) return this.keeps(store.style.at(2 * i));
            const pen = store.style.at(2 * i + 1);
            if (!hidden(i, order, pen < 0 ? 0 : pens[pen].width)) return true;
            this.leftOut.covered++;
            return false;
          }, options.allLayers === true);
    const hiddenLine = (store: ItemStore) => (i: number, order: number, width: number) => {
      const g = store.geometry;
      return later.hides(order, width, g.at(4 * i), g.at(4 * i + 1), g.at(4 * i + 2), g.at(4 * i + 3));
    };
    const hiddenCurve =
      (points: (i: number) => readonly Point[]) => (i: number, order: number, width: number) => {
        const p = points(i);
        return p.every((q, k) => k === 0 || later.hides(order, width, p[k - 1][0], p[k - 1][1], q[0], q[1]));
      };
    const arcAt = (i: number) => {
      const g = stores.arcs.geometry;
      return sampleArc(g.at(5 * i), g.at(5 * i + 1), g.at(5 * i + 2), g.at(5 * i + 3), g.at(5 * i + 4));
    };
    const circleAt = (i: number) => {
      const g = stores.circles.geometry;
      return sampleArc(g.at(3 * i), g.at(3 * i + 1), g.at(3 * i + 2), 0, TAU);
    };
    const curveAt = (i: number) => flattenCubic(asCubic(stores.curves.geometry.view(), 8 * i), 8);
    const never = () => false;
    const segments = keepVisible(stores.segments, covered ? hiddenLine(stores.segments) : never);
    const { arcs, circles } = circlesOfArcs(
      keepVisible(stores.arcs, covered ? hiddenCurve(arcAt) : never),
      keepVisible(stores.circles, covered ? hiddenCurve(circleAt) : never),
      this.rounding,
    );
    const curves = keepVisible(stores.curves, covered ? hiddenCurve(curveAt) : never);
    const stroked = strokedTwins(stores.fillEdges.geometry.view(), stores.segments.geometry.view());
    const fillEdges = keepVisible(
      stores.fillEdges,
      covered ? hiddenLine(stores.fillEdges) : never,
      (i) => stroked[i] === 1,
    );
    for (let i = 0; i < stores.segments.count; i++) {
      const layer = stores.segments.style.at(2 * i);
      const listed = stores.segments.order.at(2 * i) >= 0 || this.keeps(layer);
      if (layer >= 0 && listed && stores.segments.order.at(2 * i + 1) === 0) layerSegments[layer]++;
    }
    const hiddenObjects = new Set(this.texts.filter((t) => t.order < 0).map((t) => t.object));
    const texts = joinStackedFractions(
      joinTexts(
        this.texts.filter((t) => {
          if (t.order < 0) return this.keeps(t.layer);
          const [ux, uy] = [Math.cos(t.radians), Math.sin(t.radians)];
          const x = t.x - uy * t.height * 0.35,
            y = t.y + ux * t.height * 0.35;
          if (!covered || !later.hides(t.order, 0, x, y, x + ux * t.width, y + uy * t.width)) return true;
          this.leftOut.covered++;
          return false;
        }),
      ),
    );
    const counts = {
      segments: segments.drawn,
      arcs: arcs.drawn,
      circles: circles.drawn,
      curves: curves.drawn,
      fills: this.fills,
      texts: options.allLayers ? texts.length : texts.filter((t) => !hiddenObjects.has(t.object)).length,
      images: this.images,
    };
    const marked = withMarkups(segments, circles, this.markups, ({ width, colour }) =>
      this.pens.indexOf(
        width,
        { r: (colour >> 16) & 255, g: (colour >> 8) & 255, b: colour & 255, a: 255 },
        [],
      ),
    );
    const all = (taken: Taken, kind: number) => new Uint8Array(taken.object.length).fill(kind);
    const linework: Linework = {
      width: options.width,
      height: options.height,
      segments: marked.segments.geometry,
      segmentStyle: marked.segments.style,
      segmentObject: marked.segments.object,
      segmentKind: all(marked.segments, LINE),
      arcs: arcs.geometry,
      arcStyle: arcs.style,
      arcObject: arcs.object,
      arcKind: all(arcs, CURVE),
      circles: marked.circles.geometry,
      circleStyle: marked.circles.style,
      circleObject: marked.circles.object,
      circleKind: all(marked.circles, CURVE),
      curves: curves.geometry,
      curveStyle: curves.style,
      curveObject: curves.object,
      curveKind: all(curves, CURVE),
      fillEdges: fillEdges.geometry,
      fillEdgeStyle: fillEdges.style,
      fillEdgeObject: fillEdges.object,
      fillEdgeKind: all(fillEdges, FILL),
      objects: this.objects.toArray(),
      hatches: this.patternFills,
      markups: this.markups.map(({ kind, author, comment, date, box, index }) => ({
        kind,
        author,
        comment,
        date,
        box,
        index,
      })),
      texts,
      pictures: this.pictures,
      pens,
      layers: options.layers.map((l, i) => ({ ...l, segments: layerSegments[i] })),
      counts,
      leftOut: this.leftOut,
      content: contentOf(counts, this.pictures, options.width * options.height, fillEdges.geometry.length),
    };
    if (options.kindsAreKnown) takeKinds(linework, this.kinds);
    else if (!options.kindsLater) recogniseKinds(linework);
    return linework;
  }

  private nextOrder({ ordinal, hidden, kind }: { ordinal?: number; hidden: boolean; kind?: number }): number {
    const n = ordinal ?? this.order;
    if (kind !== undefined) this.kinds.set(n, kind);
    this.order = n + 1;
    if (hidden) this.anyHidden = true;
    return hidden ? -1 - n : n;
  }

  private clipFor(regions: readonly Region[]): Clip {
    let clip = this.clips.get(regions);
    if (!clip) {
      if (this.clips.size > CLIP_CACHE_LIMIT) this.clips.clear();
      clip = prepareClip(regions, this.page);
      this.clips.set(regions, clip);
    }
    return clip;
  }

  /** Walks a path's subpaths in sheet space. Lines go straight out; runs of Béziers are recognised first. */
  private walk(object: PathObject, closeAll: boolean, target: PieceTarget): void {
    const { coords, verbs, count, matrix: m } = object;
    const [a, b, c, d, e, f] = m;
    let startX = 0,
      startY = 0,
      x = 0,
      y = 0;
    let run: Cubic[] = [];
    let open = false;
    let rounding = -1;
    const flush = () => {
      if (rounding < 0) this.rounding = Math.max(this.rounding, (rounding = roundingOf(coords, count, m)));
      for (const piece of recogniseRun(run, rounding)) {
        if (piece.kind === 'segment') this.addSegment(target, ...piece.points);
        else this.addShape(piece, target);
      }
      run = [];
    };
    for (let i = 0; i < count; i++) {
      const verb = verbs[i] & 7;
      const px = coords[2 * i],
        py = coords[2 * i + 1];
      const nx = a * px + c * py + e,
        ny = b * px + d * py + f;
      if (verb === Verb.line) {
        if (run.length > 0) flush();
        this.addSegment(target, x, y, nx, ny);
        x = nx;
        y = ny;
        open = true;
      } else if (verb === Verb.move) {
        if (run.length > 0) flush();
        if (open && closeAll && (x !== startX || y !== startY)) this.addSegment(target, x, y, startX, startY);
        x = startX = nx;
        y = startY = ny;
        open = false;
      } else {
        const [qx, qy] = applyTransform(m, [coords[2 * i + 2], coords[2 * i + 3]]);
        const [ex, ey] = applyTransform(m, [coords[2 * i + 4], coords[2 * i + 5]]);
        run.push([x, y, nx, ny, qx, qy, ex, ey]);
        i += 2;
        x = ex;
        y = ey;
        open = true;
      }
      if (verbs[i] & CLOSE) {
        if (run.length > 0) flush();
        // A closing line back to the start that the file spells out is one line, not two.
        if (open && (x !== startX || y !== startY)) this.addSegment(target, x, y, startX, startY);
        x = startX;
        y = startY;
        open = false;
      }
    }
    if (run.length > 0) flush();
    if (open && closeAll && (x !== startX || y !== startY)) this.addSegment(target, x, y, startX, startY);
  }

  private addShape(piece: Exclude<Recognised, { kind: 'segment' }>, target: PieceTarget): void {
    const { clip, order, layer, pen, paper } = target;
    const { at, box, whole, part } = this.curveShape(piece, layer, pen, order);
    if (pen < 0 && piece.kind !== 'circle' && (piece.kind === 'curve' || piece.arc.r < LETTER_RADIUS)) return;
    if (paper) {
      const p = at(0),
        q = at(0.5),
        r = at(1);
      if (
        !liesOnInk(this.covers, p[0], p[1], q[0], q[1]) &&
        !liesOnInk(this.covers, q[0], q[1], r[0], r[1])
      ) {
        this.leftOut.paperColoured++;
        return;
      }
    }
    if (showsWhole(clip, box)) {
      whole();
      return;
    }
    const parts = visibleCurveIntervals(clip, at);
    if (parts.length === 0) {
      if (boxesTouch(box, this.page)) this.leftOut.clipped++;
      else this.leftOut.outside++;
    } else if (parts.length === 1 && parts[0][0] === 0 && parts[0][1] === 1) whole();
    else parts.forEach(part);
  }

  private curveShape(
    piece: Exclude<Recognised, { kind: 'segment' }>,
    layer: number,
    pen: number,
    order: number,
  ) {
    const { stores } = this;
    if (piece.kind === 'curve') {
      const { curve } = piece;
      return {
        at: (t: number) => cubicAt(curve, t),
        box: cubicBox(curve),
        whole: () => stores.curves.add(curve, layer, pen, order),
        part: ([a, b]: Interval, k: number) =>
          stores.curves.add(cubicPart(curve, a, b), layer, pen, order, k > 0),
      };
    }
    const { cx, cy, r, start, end } =
      piece.kind === 'arc' ? piece.arc : { ...piece.circle, start: 0, end: TAU };
    const angle = (t: number) => start + (end - start) * t;
    return {
      at: (t: number): Point => [cx + r * Math.cos(angle(t)), cy + r * Math.sin(angle(t))],
      box: [cx - r, cy - r, cx + r, cy + r] as Box,
      whole: () =>
        piece.kind === 'arc'
          ? stores.arcs.add([cx, cy, r, start, end], layer, pen, order)
          : stores.circles.add([cx, cy, r], layer, pen, order),
      part: ([a, b]: Interval, k: number) => {
        const from = normalAngle(angle(a));
        stores.arcs.add([cx, cy, r, from, from + (end - start) * (b - a)], layer, pen, order, k > 0);
      },
    };
  }

  private addSegment(target: PieceTarget, x0: number, y0: number, x1: number, y1: number): void {
    const { store, clip, order, layer, pen } = target;
    if (Math.abs(x1 - x0) < ZERO_LENGTH && Math.abs(y1 - y0) < ZERO_LENGTH) {
      // The last edge of a filled shape that returns to its start by itself is no dot.
      if (pen >= 0) this.leftOut.zeroLength++;
      return;
    }
    if (!(Number.isFinite(x0) && Number.isFinite(y0) && Number.isFinite(x1) && Number.isFinite(y1))) {
      this.leftOut.outside++;
      return;
    }
    if (target.paper && !liesOnInk(this.covers, x0, y0, x1, y1)) {
      this.leftOut.paperColoured++;
      return;
    }
    const b = clip.box;
    if (
      clip.regions.length === 0 &&
      x0 >= b[0] &&
      x0 <= b[2] &&
      x1 >= b[0] &&
      x1 <= b[2] &&
      y0 >= b[1] &&
      y0 <= b[3] &&
      y1 >= b[1] &&
      y1 <= b[3]
    ) {
      store.add4(x0, y0, x1, y1, layer, pen, order);
      return;
    }
    const parts = visibleIntervals(clip, x0, y0, x1, y1);
    if (parts.length === 0) {
      this.countHidden(x0, y0, x1, y1);
      return;
    }
    const dx = x1 - x0,
      dy = y1 - y0;
    let kept = 0;
    for (const [p, q] of parts) {
      if ((q - p) * Math.hypot(dx, dy) < ZERO_LENGTH) continue;
      kept++;
      store.add4(
        p === 0 ? x0 : x0 + p * dx,
        p === 0 ? y0 : y0 + p * dy,
        q === 1 ? x1 : x0 + q * dx,
        q === 1 ? y1 : y0 + q * dy,
        layer,
        pen,
        order,
        kept > 1,
      );
    }
    if (kept === 0) this.leftOut.clipped++;
  }

  private countHidden(x0: number, y0: number, x1: number, y1: number): void {
    const onPage = prepareClip([], this.page);
    if (visibleIntervals(onPage, x0, y0, x1, y1).length > 0) this.leftOut.clipped++;
    else this.leftOut.outside++;
  }

  private addFill(object: PathObject, clip: Clip, order: number): void {
    const rings = flattenPath(object, object.matrix);
    if (rings.length === 0) return;
    const region = makeRegion(rings, object.fill === 'evenodd' ? 'evenodd' : 'nonzero');
    const shown = intersectBoxes(region.box, clip.box);
    if (!shown) return;
    const paper = object.fillColour !== null && isPaper(object.fillColour);
    if (!paper && order >= 0) this.fills++;
    const opaque = object.opaque && object.fillColour !== null;
    if (order < 0 || (paper && !opaque)) return;
    if ((shown[2] - shown[0]) * (shown[3] - shown[1]) < SMALLEST_COVER) return;
    this.covers.push({ order, regions: [region, ...object.clips], box: shown, paper, opaque });
  }
}

function intersectBoxes(a: Box, b: Box): Box | null {
  const out: Box = [Math.max(a[0], b[0]), Math.max(a[1], b[1]), Math.min(a[2], b[2]), Math.min(a[3], b[3])];
  return out[0] < out[2] && out[1] < out[3] ? out : null;
}

function sampleArc(cx: number, cy: number, r: number, start: number, end: number): Point[] {
  return Array.from({ length: 17 }, (_, k): Point => {
    const a = start + ((end - start) * k) / 16;
    return [cx + r * Math.cos(a), cy + r * Math.sin(a)];
  });
}
