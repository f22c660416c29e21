import type { Region, Transform } from '../geometry/index.ts';

/**
 * What a page engine tells the core about a page, in paint order. Types alone: any engine
 * (a PDF engine today, DXF or SVG readers later) can stand behind them.
 */
export const Verb = { move: 0, line: 1, curve: 2 } as const;
/** Added to the verb of the last point of a subpath that is closed. */
export const CLOSE = 8;

/** 8-bit channels; alpha 0 to 255 is the product of all that applies (object, enclosing groups). */
export interface Colour {
  r: number;
  g: number;
  b: number;
  a: number;
}

interface Placed {
  /** Number of the object in paint order, counted through forms by the engine; the sink counts itself where it is absent. */
  ordinal?: number;
  /** Code of its kind where the source names it; otherwise it is recognised. */
  kind?: number;
  /** object space -> sheet space */
  matrix: Transform;
  /** Clip regions in sheet space; what shows lies inside every one of them. */
  clips: readonly Region[];
  /** Index into the page's layers, or -1. */
  layer: number;
  /** On a layer that is off by default. */
  hidden: boolean;
}

/**
 * One path. The engine may reuse the same record and arrays for the next path,
 * so a sink takes what it needs before it returns.
 */
export interface PathObject extends Placed {
  /** x, y per point, in object space; three points per curve. */
  coords: Float32Array | Float64Array;
  /** One verb per point. */
  verbs: Uint8Array;
  count: number;
  fill: 'none' | 'nonzero' | 'evenodd';
  /** null: painted by a pattern or shading whose colour is not known. */
  fillColour: Colour | null;
  /** How it is painted when not in one colour. */
  pattern?: 'tiling' | 'shading';
  /** Paints over everything below it: opaque, normal blending, no soft mask. */
  opaque: boolean;
  stroke: Colour | null;
  /** Sheet points, as displayed; 0 is the thinnest line a device can draw. */
  strokeWidth: number;
  /** Dash lengths in sheet points, empty for a solid line. */
  dash: readonly number[];
}

export interface TextObject extends Placed {
  text: string;
  /** Em size in object space; the matrix's origin is the base point. */
  size: number;
  /** Width along the base line in sheet points. */
  width: number;
  colour: Colour | null;
  /** Drawn with neither fill nor stroke (the text layer under a scan). */
  invisible: boolean;
}

/** A circular arc or circle that the source names as one, in sheet points; counter-clockwise. */
export interface RoundObject extends Placed {
  cx: number;
  cy: number;
  r: number;
  start: number;
  end: number;
  stroke: Colour;
  strokeWidth: number;
  dash: readonly number[];
}

export interface ImageObject extends Placed {
  /** The unit square of object space is the picture. */
  transparent: boolean;
  /** Its own width and height in pixels, where known. */
  pixels?: readonly [number, number];
}

export interface PageSink {
  path(object: PathObject): void;
  text(object: TextObject): void;
  image(object: ImageObject): void;
  markup(object: MarkupObject): void;
}

/** A layer as the file names it: its default state, the titles it stands under, and the group of which only one may be on. */
export interface PageLayer {
  name: string;
  on: boolean;
  under?: readonly string[];
  oneOf?: number;
}

/** A mark-up that someone laid over the page. Coordinates in sheet points. */
export interface MarkupObject {
  /** Standard subtype name: Line, Square, Circle, Polygon, PolyLine, Ink, Highlight, Underline, StrikeOut, Squiggly, FreeText, Text, Stamp, Caret … */
  kind: string;
  author: string;
  comment: string;
  /** As the file states it, ISO 8601 where it can be read; empty for none. */
  date: string;
  /** Where it lies: minX, minY, maxX, maxY. */
  box: readonly [number, number, number, number];
  /** Number of the annotation on the page. */
  index: number;
  colour: number;
  width: number;
  /** Its straight lines, x0, y0, x1, y1 each. */
  lines: readonly (readonly [number, number, number, number])[];
  circle?: { cx: number; cy: number; r: number };
}
