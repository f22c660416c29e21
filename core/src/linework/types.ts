import type { Point, Transform } from '../geometry/index.ts';
/** A layer of the file with the straight lines that lie on it; `under` and `oneOf` as in PageLayer. */
export interface SheetLayer {
  name: string;
  on: boolean;
  segments: number;
  under?: readonly string[];
  oneOf?: number;
}

/** A drawing pen as the author set it. Width in sheet points; colour 0xRRGGBB; dash in sheet points. */
export interface Pen {
  width: number;
  colour: number;
  dash: readonly number[];
}

/** How a shape came onto the page. */
export const Origin = { stroke: 0, fill: 1 } as const;

export interface PageText {
  text: string;
  /** Number of the page object that it came from (the first, where pieces were joined). */
  object: number;
  kind: ItemKindCode;
  /** Base point of the text on its base line, sheet points. */
  x: number;
  y: number;
  /** Em height in sheet points. */
  height: number;
  /** Direction of the base line, counter-clockwise. */
  radians: number;
  layer: number;
  /** Width along the base line, where known; an estimate otherwise. */
  width: number;
}

/** Pictures on the page: the corners of the unit square, and what they cover. */
export interface PagePicture {
  object: number;
  layer: number;
  corners: readonly (readonly [number, number])[];
  area: number;
  /** Its own size, where known. */ pixels?: readonly [number, number];
}

export interface LeftOut {
  clipped: number;
  outside: number;
  zeroLength: number;
  unpainted: number;
  paperColoured: number;
  covered: number;
}

/** What something on a sheet is to the person who looks at it. Stored as numbers: the order is fixed. */
export const ITEM_KINDS_OF_SHEET = [
  'line',
  'curve',
  'hatch',
  'fill',
  'text',
  'dimension',
  'picture',
  'markup',
] as const;
export type SheetKind = (typeof ITEM_KINDS_OF_SHEET)[number];
export type ItemKindCode = number;
export const kindCode = (kind: SheetKind): ItemKindCode => ITEM_KINDS_OF_SHEET.indexOf(kind);

/** A mark-up with what the list of comments needs; its lines are items of the arrays. */
export interface Markup {
  kind: string;
  author: string;
  comment: string;
  date: string;
  box: readonly [number, number, number, number];
  index: number;
}

/** Pieces as drawn: one that a clip cuts into several visible parts counts once. */
export interface Counts {
  segments: number;
  arcs: number;
  circles: number;
  curves: number;
  fills: number;
  texts: number;
  images: number;
}

export type Content = 'vector' | 'scan' | 'mixed' | 'empty';

/**
 * The linework of one page, in sheet points. Arrays run beside the geometry: `style` with two numbers
 * per item, layer (-1 for none) and pen (-1 for the edges of a fill); `object` with the number of the page
 * object it belongs to (-1 - n for the nth mark-up); `kind` with a code of ITEM_KINDS_OF_SHEET.
 * Items on layers that are off are there as well when they were asked for.
 */
export interface Linework {
  width: number;
  height: number;
  /** x0, y0, x1, y1 each. */
  segments: Float64Array;
  segmentStyle: Int32Array;
  segmentObject: Int32Array;
  segmentKind: Uint8Array;
  /** cx, cy, r, start, end each; counter-clockwise, radians. */
  arcs: Float64Array;
  arcStyle: Int32Array;
  arcObject: Int32Array;
  arcKind: Uint8Array;
  /** cx, cy, r each. */
  circles: Float64Array;
  circleStyle: Int32Array;
  circleObject: Int32Array;
  circleKind: Uint8Array;
  /** Cubic Béziers, eight numbers each. */
  curves: Float64Array;
  curveStyle: Int32Array;
  curveObject: Int32Array;
  curveKind: Uint8Array;
  /** Straight edges of filled shapes that have no stroke of their own. */
  fillEdges: Float64Array;
  fillEdgeStyle: Int32Array;
  fillEdgeObject: Int32Array;
  fillEdgeKind: Uint8Array;
  /** Three numbers per page object: layer, pen (-1 for none), kind; -1 as kind where nothing of it shows. */
  objects: Int32Array;
  markups: Markup[];
  /** Hatched areas: families of strokes, and fills by a tiling pattern. */
  hatches: number;
  texts: PageText[];
  pictures: PagePicture[];
  pens: Pen[];
  layers: SheetLayer[];
  counts: Counts;
  leftOut: LeftOut;
  content: Content;
  /** Patches that look like bare paper, over what was painted before; none of those that were stored before these were told. */
  patches?: readonly Patch[];
  /** Set for drawings at true size: where the sheet's lower left corner lies in the drawing's own coordinates, millimetres. */
  reference?: TrueSize;
}

/** A patch of bare paper laid over a drawing: its ring in sheet points, and the number of its page object, which lies over all lower ones. */
export interface Patch {
  object: number;
  ring: readonly Point[];
}

/** A drawing at true size: where its sheet begins, and pages of PDFs that it lays under itself (sheet points to its own millimetres). */
export interface TrueSize {
  origin: readonly [number, number];
  sheets?: ReferredSheet[];
}
export interface ReferredSheet {
  file: string;
  page: number;
  placement: Transform;
  ring: readonly Point[] | null;
  on: boolean;
}

/** Numbers per item of each array. */
export const STRIDE = { segments: 4, arcs: 5, circles: 3, curves: 8, fillEdges: 4 } as const;

const NO_COUNTS: Counts = { segments: 0, arcs: 0, circles: 0, curves: 0, fills: 0, texts: 0, images: 0 };
export const NOTHING_LEFT_OUT: LeftOut = {
  clipped: 0,
  outside: 0,
  zeroLength: 0,
  unpainted: 0,
  paperColoured: 0,
  covered: 0,
};

/** A page of a size (sheet points) with nothing on it. */
export function emptyLinework(width: number, height: number): Linework {
  const floats = () => new Float64Array(0),
    ints = () => new Int32Array(0),
    bytes = () => new Uint8Array(0);
  return {
    width,
    height,
    segments: floats(),
    segmentStyle: ints(),
    segmentObject: ints(),
    segmentKind: bytes(),
    arcs: floats(),
    arcStyle: ints(),
    arcObject: ints(),
    arcKind: bytes(),
    circles: floats(),
    circleStyle: ints(),
    circleObject: ints(),
    circleKind: bytes(),
    curves: floats(),
    curveStyle: ints(),
    curveObject: ints(),
    curveKind: bytes(),
    fillEdges: floats(),
    fillEdgeStyle: ints(),
    fillEdgeObject: ints(),
    fillEdgeKind: bytes(),
    objects: ints(),
    markups: [],
    hatches: 0,
    texts: [],
    pictures: [],
    pens: [],
    layers: [],
    counts: { ...NO_COUNTS },
    leftOut: { ...NOTHING_LEFT_OUT },
    content: 'empty',
  };
}
