import { emptyLinework, kindCode, type Linework, type PageText } from '@calque/core/linework';

/** How a made-up sheet draws and writes its dimensions. */
export interface PlanStyle {
  marks: 'tick' | 'arrow' | 'open-arrow' | 'dot';
  /** Figures above their line, in a gap of it, or level beside and in upright ones too. */
  figures: 'above' | 'gap' | 'level';
  write: (mm: number) => string;
  scale: { x: number; y: number };
  /** Each dimension has a line of its own, or chains share one. */
  joined: boolean;
  /** Lines that happen to cross dimensions. */
  clutter: boolean;
  textHeight: number;
}

export interface PlanDimension {
  text: string;
  mm: number;
  from: [number, number];
  to: [number, number];
}

const PAPER = 72 / 25.4;

/** A repeatable source of chance, 0 to 1. */
export function chanceFrom(seed: number): () => number {
  let state = seed >>> 0 || 1;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** Draws onto a page: lines, marks and texts, in sheet points. */
export class Drafting {
  readonly segments: number[] = [];
  readonly edges: number[] = [];
  readonly circles: number[] = [];
  readonly texts: PageText[] = [];

  constructor(
    readonly width: number,
    readonly height: number,
  ) {}

  line(x0: number, y0: number, x1: number, y1: number): void {
    this.segments.push(x0, y0, x1, y1);
  }

  /** A text by the middle of its base line. */
  text(text: string, x: number, y: number, height: number, radians = 0): void {
    const width = text.length * height * 0.53;
    this.texts.push({
      text,
      object: this.texts.length,
      kind: kindCode('text'),
      x: x - (Math.cos(radians) * width) / 2,
      y: y - (Math.sin(radians) * width) / 2,
      height,
      radians,
      layer: -1,
      width,
    });
  }

  /** A dimension between two points of its line; `away`: to which side its witness lines go. */
  dimension(
    from: [number, number],
    to: [number, number],
    text: string,
    style: Pick<PlanStyle, 'marks' | 'figures' | 'textHeight'>,
    away = 1,
    witness = 14,
  ): PlanDimension {
    const h = style.textHeight,
      length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const ux = (to[0] - from[0]) / length,
      uy = (to[1] - from[1]) / length;
    const at = (t: number, v: number): [number, number] => [
      from[0] + t * ux - v * uy,
      from[1] + t * uy + v * ux,
    ];
    const stroke = (a: [number, number], b: [number, number]) => this.line(...a, ...b);
    const width = text.length * h * 0.53;
    const narrow = length < width + 2 * h;
    for (const t of [0, length]) {
      stroke(at(t, away * 0.4 * h), at(t, -away * witness));
      const inward = t === 0 ? 1 : -1,
        out = narrow && style.marks !== 'tick' && style.marks !== 'dot' ? -1 : 1;
      if (style.marks === 'tick') stroke(at(t - 0.35 * h, -0.35 * h), at(t + 0.35 * h, 0.35 * h));
      else if (style.marks === 'dot') this.circles.push(...at(t, 0), 0.18 * h);
      else {
        const foot = t + inward * out * 0.9 * h;
        const [tip, a, b] = [at(t, 0), at(foot, 0.16 * h), at(foot, -0.16 * h)];
        if (style.marks === 'open-arrow') {
          stroke(tip, a);
          stroke(tip, b);
        } else this.edges.push(...tip, ...a, ...a, ...b, ...b, ...tip);
        if (out < 0) stroke(at(t, 0), at(t - inward * 2.2 * h, 0));
      }
    }
    const beside = narrow ? length + width / 2 + 2.6 * h : length / 2;
    let radians = Math.atan2(uy, ux);
    if (radians > Math.PI / 2 + 1e-9 || radians <= -Math.PI / 2 + 1e-9) radians += Math.PI;
    const up = Math.cos(radians - Math.atan2(uy, ux)) > 0 ? 1 : -1;
    const level = style.figures === 'level' && Math.abs(uy) > 0.5;
    if (level) {
      const [x, y] = at(narrow ? length + 1.5 * h : length / 2, 0);
      this.text(text, x, y - 0.35 * h, h);
      if (!narrow) {
        stroke(at(0, 0), at(length / 2 - 0.8 * h, 0));
        stroke(at(length / 2 + 0.8 * h, 0), at(length, 0));
      }
    } else if (style.figures === 'above' || narrow) {
      const [x, y] = at(beside, up * 0.3 * h);
      this.text(text, x, y, h, radians);
      if (!(narrow && style.marks.endsWith('arrow'))) stroke(at(0, 0), at(length, 0));
      if (narrow) stroke(at(length, 0), at(beside + width / 2, 0));
    } else {
      const [x, y] = at(beside, -up * 0.35 * h);
      this.text(text, x, y, h, radians);
      stroke(at(0, 0), at(length / 2 - width / 2 - 0.4 * h, 0));
      stroke(at(length / 2 + width / 2 + 0.4 * h, 0), at(length, 0));
    }
    return { text, mm: 0, from, to };
  }

  linework(): Linework {
    const l = emptyLinework(this.width, this.height);
    const fill = (n: number, value: number) => new Int32Array(n).fill(value);
    const n = this.segments.length / 4,
      f = this.edges.length / 4,
      c = this.circles.length / 3;
    return {
      ...l,
      texts: this.texts,
      segments: Float64Array.from(this.segments),
      segmentStyle: fill(2 * n, -1),
      segmentObject: fill(n, 0),
      segmentKind: new Uint8Array(n),
      fillEdges: Float64Array.from(this.edges),
      fillEdgeStyle: fill(2 * f, -1),
      fillEdgeObject: fill(f, 0),
      fillEdgeKind: new Uint8Array(f),
      circles: Float64Array.from(this.circles),
      circleStyle: fill(2 * c, -1),
      circleObject: fill(c, 0),
      circleKind: new Uint8Array(c),
    };
  }
}

/** A plan of rooms with chains on two sides, totals, and dimensions inside. Lengths are whole multiples of 5 mm. */
export function drawPlan(
  style: PlanStyle,
  seed: number,
  page = new Drafting(1191, 842),
  at: [number, number] = [180, 150],
  columns = 5,
  rows = 4,
): { page: Drafting; dimensions: PlanDimension[] } {
  const chance = chanceFrom(seed);
  const h = style.textHeight,
    perX = PAPER / style.scale.x,
    perY = PAPER / style.scale.y;
  const rooms = (n: number, span: number, per: number) =>
    Array.from({ length: n }, () => Math.round(((span / n / per) * (0.5 + chance())) / 5) * 5);
  const wide = rooms(columns, 560, perX),
    high = rooms(rows, 380, perY);
  const marks = (list: number[], start: number, per: number) =>
    list.reduce((out, mm) => [...out, out[out.length - 1] + mm * per], [start]);
  const xs = marks(wide, at[0], perX),
    ys = marks(high, at[1], perY);
  for (const x of xs) page.line(x, ys[0], x, ys[rows]);
  for (const y of ys) page.line(xs[0], y, xs[columns], y);
  const dimensions: PlanDimension[] = [];
  const put = (from: [number, number], to: [number, number], mm: number, away: number, witness?: number) =>
    dimensions.push({ ...page.dimension(from, to, style.write(mm), style, away, witness), mm });
  const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
  const bottom = ys[0] - 4 * h,
    left = xs[0] - 4 * h;
  wide.forEach((mm, i) => put([xs[i], bottom], [xs[i + 1], bottom], mm, -1));
  put([xs[0], bottom - 4 * h], [xs[columns], bottom - 4 * h], sum(wide), -1);
  high.forEach((mm, i) => put([left, ys[i]], [left, ys[i + 1]], mm, 1));
  put([left - 4 * h, ys[0]], [left - 4 * h, ys[rows]], sum(high), 1);
  if (style.joined) page.line(xs[0], bottom, xs[columns], bottom);
  for (let i = 0; i < columns; i++) {
    for (let k = 0; k < rows; k++) {
      if (chance() < 0.5) continue;
      const y = ys[k] + (ys[k + 1] - ys[k]) * (0.3 + 0.4 * chance());
      put([xs[i], y], [xs[i + 1], y], wide[i], 1, 0.5 * h);
    }
  }
  if (style.clutter) {
    for (let i = 0; i < 150; i++) {
      const x = xs[0] + chance() * (xs[columns] - xs[0]),
        y = ys[0] + chance() * (ys[rows] - ys[0]),
        a = chance() * 6.28,
        r = 4 + 25 * chance();
      page.line(x, y, x + r * Math.cos(a), y + r * Math.sin(a));
    }
    page.text('12', xs[0] + 40, ys[0] + 30, h);
    page.text('Boat bay', xs[1] + 30, ys[1] + 30, 1.4 * h);
    page.text('24.5 m²', xs[1] + 30, ys[1] + 14, h);
  }
  return { page, dimensions };
}

/** A schedule: ruled cells with figures in them, which are no dimensions. */
export function drawTable(
  page: Drafting,
  x: number,
  y: number,
  cells: readonly (readonly string[])[],
  h = 6,
): void {
  const wide = 46,
    high = 2.2 * h,
    columns = cells[0].length;
  for (let r = 0; r <= cells.length; r++) page.line(x, y + r * high, x + columns * wide, y + r * high);
  for (let c = 0; c <= columns; c++) page.line(x + c * wide, y, x + c * wide, y + cells.length * high);
  cells.forEach((row, r) =>
    row.forEach((text, c) => page.text(text, x + (c + 0.5) * wide, y + r * high + 0.5 * h, h)),
  );
}
