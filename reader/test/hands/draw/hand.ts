/** What a sheet is drawn with before a producer writes it: strokes, fills and texts in sheet points, y up, with the truth beside them. */
export type Point = readonly [number, number];
export type Kind = 'linear' | 'diameter' | 'radius' | 'angle' | 'arc' | 'ordinate' | 'boundary';

export interface Truth {
  text: string;
  kind: Kind;
  /** Millimetres; degrees for an angle. */
  value: number;
  from: Point;
  to: Point;
  /** A second figure below the line: the height of an opening, millimetres. */
  height?: number;
  /** Underlined: drawn not to scale. */
  free?: boolean;
  /** A slip that the draughtsman made: the figure is not what is drawn. */
  slip?: boolean;
}
export interface TrueView {
  factor: number;
  unit: string | null;
  box: readonly [number, number, number, number];
  /** The view may be said to be unknown. */ few?: boolean;
}
export interface PageTruth {
  dimensions: Truth[];
  views: TrueView[];
}

export type Op =
  | { op: 'line'; points: Point[]; width: number; colour: string; dash?: number[]; close?: boolean }
  | { op: 'fill'; points: Point[]; colour: string }
  | { op: 'circle'; at: Point; r: number; width: number; colour: string; fill: boolean }
  | { op: 'arc'; at: Point; r: number; start: number; end: number; width: number; colour: string }
  | {
      op: 'text';
      text: string;
      at: Point;
      size: number;
      radians: number;
      anchor: 'start' | 'middle' | 'end';
      colour: string;
    };

export const PAPER = 72 / 25.4;
export const DEGREE = Math.PI / 180;
/** Widths of a common sans serif, in ems; good enough to leave a gap for a figure. */
export const widthOf = (text: string, size: number) =>
  [...text].reduce(
    (sum, c) =>
      sum +
      (/[.,'’:|il]/.test(c)
        ? 0.26
        : /[-"()/ fjrt]/.test(c)
          ? 0.34
          : /[A-ZØm°+±×]/.test(c)
            ? 0.68
            : /[⁵²³]/.test(c)
              ? 0.33
              : 0.556),
    0,
  ) * size;

export class Hand {
  readonly ops: Op[] = [];
  readonly truth: PageTruth = { dimensions: [], views: [] };
  pen = 0.5;
  ink = '#000000';

  constructor(
    readonly width: number,
    readonly height: number,
  ) {}

  line(...points: Point[]): void {
    this.ops.push({ op: 'line', points, width: this.pen, colour: this.ink });
  }
  dashed(dash: number[], ...points: Point[]): void {
    this.ops.push({ op: 'line', points, width: this.pen, colour: this.ink, dash });
  }
  loop(...points: Point[]): void {
    this.ops.push({ op: 'line', points, width: this.pen, colour: this.ink, close: true });
  }
  fill(...points: Point[]): void {
    this.ops.push({ op: 'fill', points, colour: this.ink });
  }
  circle(at: Point, r: number, fill = false): void {
    this.ops.push({ op: 'circle', at, r, width: this.pen, colour: this.ink, fill });
  }
  /** Counter-clockwise from start to end, radians. */
  arc(at: Point, r: number, start: number, end: number): void {
    this.ops.push({ op: 'arc', at, r, start, end, width: this.pen, colour: this.ink });
  }
  text(
    text: string,
    at: Point,
    size: number,
    anchor: 'start' | 'middle' | 'end' = 'middle',
    radians = 0,
  ): void {
    this.ops.push({ op: 'text', text, at, size, radians, anchor, colour: this.ink });
  }
  box([x0, y0]: Point, [x1, y1]: Point): void {
    this.loop([x0, y0], [x1, y0], [x1, y1], [x0, y1]);
  }
  dim(d: Truth): void {
    this.truth.dimensions.push(d);
  }
  view(
    factor: number,
    unit: string | null,
    box: TrueView['box'] = [0, 0, this.width, this.height],
    few = false,
  ): void {
    this.truth.views.push({ factor, unit, box, ...(few && { few }) });
  }

  /** Places of a view: millimetres of the thing to points of the sheet, turned by `radians`. */
  place(origin: Point, factor: number, radians = 0): (x: number, y: number) => Point {
    const k = PAPER / factor,
      c = Math.cos(radians),
      s = Math.sin(radians);
    return (x, y) => [origin[0] + k * (x * c - y * s), origin[1] + k * (x * s + y * c)];
  }
}

export const along = (a: Point, b: Point, t: number, off = 0): Point => {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]),
    ux = (b[0] - a[0]) / length,
    uy = (b[1] - a[1]) / length;
  return [a[0] + ux * t - uy * off, a[1] + uy * t + ux * off];
};
export const distance = (a: Point, b: Point) => Math.hypot(b[0] - a[0], b[1] - a[1]);

/** A repeatable source of chance, 0 to 1. */
export function chance(seed: number): () => number {
  let s = seed >>> 0 || 1;
  return () => {
    s = (Math.imul(s ^ (s >>> 15), 2246822519) + 3266489917) >>> 0;
    return ((s ^ (s >>> 13)) >>> 0) / 2 ** 32;
  };
}
