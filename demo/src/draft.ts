import {
  appendBezierCurve,
  closePath,
  lineTo,
  moveTo,
  PDFDocument,
  popGraphicsState,
  pushGraphicsState,
  setDashPattern,
  setLineWidth,
  setStrokingGrayscaleColor,
  setFillingGrayscaleColor,
  fill,
  StandardFonts,
  stroke,
  type PDFFont,
  type PDFPage,
  degrees,
  rgb,
} from '@cantoo/pdf-lib';
import type { Point } from '@calque/core/geometry';

const PT_PER_MM = 72 / 25.4;

export interface Pencil {
  width: number;
  grey?: number;
  dash?: number[];
}
export const PENS = {
  wall: { width: 1 },
  thin: { width: 0.35 },
  dim: { width: 0.25 },
  axis: { width: 0.25, grey: 0.5, dash: [9, 2, 1.5, 2] },
  light: { width: 0.3, grey: 0.45 },
  steel: { width: 0.8 },
} satisfies Record<string, Pencil>;

/** Draws in true millimetres at a scale onto a PDF page: lines, arcs, circles, texts and dimensions with ticks. */
export class Drafter {
  private constructor(
    readonly document: PDFDocument,
    private readonly font: PDFFont,
    private readonly bold: PDFFont,
  ) {}
  private page!: PDFPage;
  private k = 1;
  private ox = 0;
  private oy = 0;

  static async start(): Promise<Drafter> {
    const document = await PDFDocument.create();
    // The same bytes at every run.
    const fixed = new Date(Date.UTC(2026, 0, 5));
    document.setCreationDate(fixed);
    document.setModificationDate(fixed);
    document.setProducer('Calque demo');
    return new Drafter(
      document,
      await document.embedFont(StandardFonts.Helvetica),
      await document.embedFont(StandardFonts.HelveticaBold),
    );
  }

  /** A new page, millimetres of paper; `origin` is where the drawing's zero stands on it, in paper millimetres. */
  sheet(width: number, height: number, scale: number, origin: Point): void {
    this.page = this.document.addPage([width * PT_PER_MM, height * PT_PER_MM]);
    this.k = PT_PER_MM / scale;
    this.ox = origin[0] * PT_PER_MM;
    this.oy = origin[1] * PT_PER_MM;
  }

  /** Sheet point of a drawing point. */
  at(p: Point): [number, number] {
    return [this.ox + this.k * p[0], this.oy + this.k * p[1]];
  }

  private pen(pencil: Pencil) {
    return [
      pushGraphicsState(),
      setLineWidth(pencil.width),
      setStrokingGrayscaleColor(pencil.grey ?? 0),
      setDashPattern(pencil.dash ?? [], 0),
    ];
  }

  path(points: readonly Point[], pencil: Pencil, closed = false): void {
    const ops = points.map((p, i) => (i === 0 ? moveTo : lineTo)(...this.at(p)));
    this.page.pushOperators(
      ...this.pen(pencil),
      ...ops,
      ...(closed ? [closePath()] : []),
      stroke(),
      popGraphicsState(),
    );
  }

  line(a: Point, b: Point, pencil: Pencil): void {
    this.path([a, b], pencil);
  }

  rect(x0: number, y0: number, x1: number, y1: number, pencil: Pencil): void {
    this.path(
      [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ],
      pencil,
      true,
    );
  }

  filled(points: readonly Point[], grey: number): void {
    this.page.pushOperators(
      pushGraphicsState(),
      setFillingGrayscaleColor(grey),
      ...points.map((p, i) => (i === 0 ? moveTo : lineTo)(...this.at(p))),
      closePath(),
      fill(),
      popGraphicsState(),
    );
  }

  arc(c: Point, r: number, start: number, end: number, pencil: Pencil): void {
    const pieces = Math.max(1, Math.ceil(Math.abs(end - start) / (Math.PI / 2) - 1e-9));
    const step = (end - start) / pieces,
      h = (4 / 3) * Math.tan(step / 4) * r;
    const on = (a: number): Point => [c[0] + r * Math.cos(a), c[1] + r * Math.sin(a)];
    const ops = [moveTo(...this.at(on(start)))];
    for (let i = 0; i < pieces; i++) {
      const a = start + i * step,
        b = a + step,
        [ax, ay] = on(a),
        [bx, by] = on(b);
      const c1 = this.at([ax - h * Math.sin(a), ay + h * Math.cos(a)]),
        c2 = this.at([bx + h * Math.sin(b), by - h * Math.cos(b)]);
      ops.push(appendBezierCurve(...c1, ...c2, ...this.at([bx, by])));
    }
    this.page.pushOperators(...this.pen(pencil), ...ops, stroke(), popGraphicsState());
  }

  circle(c: Point, r: number, pencil: Pencil): void {
    this.arc(c, r, 0, 2 * Math.PI, pencil);
  }

  /** A text with its middle at a drawing point; size in points of paper. */
  text(
    text: string,
    at: Point,
    size: number,
    options: { turn?: number; bold?: boolean; left?: boolean; lift?: number; grey?: number } = {},
  ): void {
    const font = options.bold ? this.bold : this.font;
    const turn = options.turn ?? 0;
    const half = options.left ? 0 : font.widthOfTextAtSize(text, size) / 2;
    const [x, y] = this.at(at);
    const lift = options.lift ?? 0;
    const grey = options.grey ?? 0;
    this.page.drawText(text, {
      x: x - half * Math.cos(turn) - lift * Math.sin(turn),
      y: y - half * Math.sin(turn) + lift * Math.cos(turn),
      size,
      font,
      rotate: degrees((turn * 180) / Math.PI),
      color: rgb(grey, grey, grey),
    });
  }

  /** A dimension along a line between two points of the drawing, moved out by `off` millimetres to its left. */
  dimension(a: Point, b: Point, off: number, text?: string): void {
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const ux = (b[0] - a[0]) / length,
      uy = (b[1] - a[1]) / length,
      nx = -uy,
      ny = ux;
    const out = (p: Point, d: number): Point => [p[0] + nx * d, p[1] + ny * d];
    const pt = 1 / this.k,
      sign = Math.sign(off) || 1;
    for (const p of [a, b]) {
      this.line(out(p, sign * 4 * pt), out(p, off + sign * 4 * pt), PENS.dim);
      const [x, y] = out(p, off),
        t = 3 * pt;
      this.line(
        [x - (ux - nx) * t * 0.7, y - (uy - ny) * t * 0.7],
        [x + (ux - nx) * t * 0.7, y + (uy - ny) * t * 0.7],
        { width: 0.7 },
      );
    }
    this.line(out(a, off), out(b, off), PENS.dim);
    const middle: Point = [(a[0] + b[0]) / 2 + nx * off, (a[1] + b[1]) / 2 + ny * off];
    const turn = Math.atan2(uy, ux);
    const upright = turn > Math.PI / 2 + 1e-9 || turn <= -Math.PI / 2 + 1e-9 ? turn + Math.PI : turn;
    this.text(text ?? String(Math.round(length)), middle, 6.5, { turn: upright, lift: 2 });
  }

  /** A chain of dimensions at the given stations along x or y. */
  chain(stations: readonly number[], along: 'x' | 'y', base: number, off: number): void {
    for (let i = 1; i < stations.length; i++) {
      const [p, q] = [stations[i - 1], stations[i]];
      if (along === 'x') this.dimension([p, base], [q, base], off);
      else this.dimension([base, p], [base, q], off);
    }
  }

  /** Border and title block. */
  frame(
    width: number,
    height: number,
    lines: { title: string; number: string; scaleText: string; date: string },
  ): void {
    const keep = [this.k, this.ox, this.oy] as const;
    [this.k, this.ox, this.oy] = [PT_PER_MM, 0, 0];
    this.rect(8, 8, width - 8, height - 8, { width: 0.8 });
    const x = width - 8 - 105,
      y = 8;
    this.rect(x, y, width - 8, y + 34, { width: 0.5 });
    this.line([x, y + 22], [width - 8, y + 22], PENS.thin);
    this.line([x, y + 11], [width - 8, y + 11], PENS.thin);
    this.line([x + 62, y], [x + 62, y + 22], PENS.thin);
    this.text('Riverside Rowing Club, boathouse', [x + 3, y + 26], 10, { bold: true, left: true });
    this.text(lines.title, [x + 3, y + 14.5], 9, { left: true });
    this.text(`DWG ${lines.number}`, [x + 65, y + 14.5], 9, { left: true });
    this.text(`Scale ${lines.scaleText}`, [x + 3, y + 3.8], 8, { left: true });
    this.text(lines.date, [x + 65, y + 3.8], 8, { left: true });
    this.text('All dimensions in millimetres. Check on site. Invented for demonstration.', [12, 11], 6, {
      left: true,
      grey: 0.35,
    });
    [this.k, this.ox, this.oy] = keep;
  }

  async save(): Promise<Uint8Array> {
    return this.document.save({ useObjectStreams: false });
  }
}
