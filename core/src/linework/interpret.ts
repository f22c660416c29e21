import {
  applyTransform,
  boxesTouch,
  boxOfPoints,
  cubicAt,
  cubicBox,
  cubicPart,
  makeRegion,
  normalAngle,
  ringArea,
  TAU,
  type Box,
  type Interval,
  type Point,
  type Region,
} from '../geometry/index.ts';
import { ItemStores, objectOf, type ItemStore } from './collector.ts';
import { liesOnInk, type Cover } from './covering.ts';
import { isPaper, PenTable } from './paint.ts';
import {
  type ImageObject,
  type MarkupObject,
  type PageSink,
  type PathObject,
  type RoundObject,
  type TextObject,
} from './page-objects.ts';
import {
  finishLinework,
  keepsHidden,
  middleLine,
  type InterpretOptions,
  type OrderedText,
} from './finish-linework.ts';
import { GrowingInts } from './growing.ts';
import { countPieces, flattenPath } from './flatten-path.ts';
import { HIDDEN_BY_OTHERS } from './switches.ts';
import { kindCode, type LeftOut, type Linework, type PagePicture } from './types.ts';
import {
  prepareClip,
  showsWhole,
  visibleCurveIntervals,
  visibleIntervals,
  type Clip,
} from './visible-parts.ts';
import { walkPath, type Shape } from './walk-path.ts';

export type { InterpretOptions };

/** Where the pieces of the path at hand go; one record, used again for every path. */
interface PieceTarget {
  store: ItemStore;
  clip: Clip;
  order: number;
  layer: number;
  /** -1: the edges of a fill. */ pen: number;
  paper: boolean;
}

/** A stroked or filled piece shorter than this (sheet points) is a dot, not a line. */
const ZERO_LENGTH = 1e-4;
/** Arcs of filled shapes below this radius are the rounds of letters drawn as outlines, not geometry. */
const LETTER_RADIUS = 6;
/** A fill smaller than this many square points covers nothing that a person would miss. */
const SMALLEST_COVER = 4;
const CLIP_CACHE_LIMIT = 512;
const LINE = kindCode('line'),
  FILL = kindCode('fill'),
  TEXT = kindCode('text'),
  PICTURE = kindCode('picture');

/**
 * Turns page objects, in paint order, into linework: recognises arcs and circles, cuts what a clip
 * hides in part, and leaves out what a person cannot see, counting why.
 */
export class PageInterpreter implements PageSink {
  private readonly page: Box;
  private readonly stores = new ItemStores();
  private readonly pens = new PenTable();
  private readonly covers: Cover[] = [];
  private readonly texts: OrderedText[] = [];
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
  private readonly pieces = {
    segment: (x0: number, y0: number, x1: number, y1: number) => this.addSegment(this.target, x0, y0, x1, y1),
    shape: (piece: Shape) => this.addShape(piece, this.target),
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
    this.rounding = Math.max(this.rounding, walkPath(object, !strokeShows, this.pieces));
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
    const line = middleLine({ x: m[4], y: m[5], height, radians, width });
    if (visibleIntervals(this.clipFor(object.clips), ...line).length === 0) {
      this.countHidden(...line);
      return;
    }
    if (object.colour && isPaper(object.colour) && !liesOnInk(this.covers, ...line)) {
      this.leftOut.paperColoured++;
      return;
    }
    this.note(order, object.layer, -1, TEXT);
    this.texts.push({
      text: object.text,
      object: objectOf(order),
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
      object: objectOf(order),
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
    const n = objectOf(order);
    while (this.objects.length < 3 * n) this.objects.push3(-1, -1, -1);
    if (this.objects.length > 3 * n) return;
    // What a layer round it hides stays hidden, whatever its own layer does.
    if (order < 0 && !this.keeps(layer)) this.objects.push3(-1, -1, HIDDEN_BY_OTHERS);
    else this.objects.push3(layer, pen, kind);
  }

  private keeps(layer: number): boolean {
    return keepsHidden(this.options, layer);
  }

  /** The finished linework. Call once, after the last object. */
  finish(): Linework {
    return finishLinework({
      options: this.options,
      stores: this.stores,
      pens: this.pens,
      covers: this.covers,
      texts: this.texts,
      markups: this.markups,
      pictures: this.pictures,
      objects: this.objects,
      kinds: this.kinds,
      leftOut: this.leftOut,
      anyHidden: this.anyHidden,
      rounding: this.rounding,
      patternFills: this.patternFills,
      fills: this.fills,
      images: this.images,
    });
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

  private addShape(piece: Shape, target: PieceTarget): void {
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

  private curveShape(piece: Shape, layer: number, pen: number, order: number) {
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
