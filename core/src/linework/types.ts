/** A drawing pen as the author set it. Width in sheet points; colour 0xRRGGBB; dash in sheet points. */
export interface Pen { width: number; colour: number; dash: readonly number[] }

/** How a shape came onto the page. */
export const Origin = { stroke: 0, fill: 1 } as const;

export interface PageText {
  text: string;
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
export interface PagePicture { corners: readonly (readonly [number, number])[]; area: number }

export interface LeftOut {
  clipped: number;
  outside: number;
  zeroLength: number;
  unpainted: number;
  paperColoured: number;
  covered: number;
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
 * The linework of one page, in sheet points. `style` arrays run beside the geometry:
 * two numbers per item, layer (-1 for none) and pen (-1 for the edges of a fill).
 */
export interface Linework {
  width: number;
  height: number;
  /** x0, y0, x1, y1 each. */
  segments: Float64Array;
  segmentStyle: Int32Array;
  /** cx, cy, r, start, end each; counter-clockwise, radians. */
  arcs: Float64Array;
  arcStyle: Int32Array;
  /** cx, cy, r each. */
  circles: Float64Array;
  circleStyle: Int32Array;
  /** Cubic Béziers, eight numbers each. */
  curves: Float64Array;
  curveStyle: Int32Array;
  /** Straight edges of filled shapes that have no stroke of their own. */
  fillEdges: Float64Array;
  fillEdgeStyle: Int32Array;
  texts: PageText[];
  pictures: PagePicture[];
  pens: Pen[];
  layers: { name: string; on: boolean; segments: number }[];
  counts: Counts;
  leftOut: LeftOut;
  content: Content;
}

/** Numbers per item of each array. */
export const STRIDE = { segments: 4, arcs: 5, circles: 3, curves: 8, fillEdges: 4 } as const;
