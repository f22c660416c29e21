import {
  applyTransform,
  IDENTITY,
  meanScale,
  type Piece,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { kindOf, looseOf, piecesOf, type Traced } from '@calque/core/model';
import type { Viewport } from '../viewport';

/** What a path is painted with. */
interface Canvas {
  context: CanvasRenderingContext2D;
  view: Viewport;
}

/**
 * A path in plane millimetres, made once and painted at any view. Canvas paths hold 32-bit floats, so
 * its numbers are kept small by an origin near its own points.
 */
export class PlanePath {
  private readonly path = new Path2D();
  private origin: Point | null = null;

  private local(p: Point): Point {
    this.origin ??= p;
    return [p[0] - this.origin[0], p[1] - this.origin[1]];
  }

  ring(ring: readonly Point[]): void {
    if (ring.length < 2) return;
    const points = ring.map((p) => this.local(p));
    this.path.moveTo(...(points[0] as [number, number]));
    // `closePath` goes through the whole path each time in Chromium; running on over the first edge gives the same corner.
    for (const p of [...points.slice(1), points[0], points[1]]) this.path.lineTo(p[0], p[1]);
  }

  segment(from: Point, to: Point): void {
    const a = this.local(from),
      b = this.local(to);
    this.path.moveTo(a[0], a[1]);
    this.path.lineTo(b[0], b[1]);
  }

  piece(piece: Piece): void {
    if (piece.kind === 'segment') return this.segment(piece.from, piece.to);
    if (piece.kind === 'arc') {
      const { cx, cy, r, start, end } = piece.arc,
        [x, y] = this.local([cx, cy]);
      this.path.moveTo(x + r * Math.cos(start), y + r * Math.sin(start));
      this.path.arc(x, y, r, start, end);
      return;
    }
    const [x0, y0, x1, y1, x2, y2, x3, y3] = piece.cubic;
    const [a, b, c, d] = (
      [
        [x0, y0],
        [x1, y1],
        [x2, y2],
        [x3, y3],
      ] as const
    ).map((p) => this.local(p));
    this.path.moveTo(a[0], a[1]);
    this.path.bezierCurveTo(b[0], b[1], c[0], c[1], d[0], d[1]);
  }

  /** What is drawn of an element, or the frame that stands for it. */
  element(e: Traced): void {
    for (const one of looseOf(e)) {
      const frame = kindOf(one).frame(one);
      if (frame) this.ring(frame);
      else for (const piece of piecesOf(one)) this.piece(piece);
    }
  }

  fill({ context, view }: Canvas, rule: CanvasFillRule = 'nonzero'): void {
    this.placed(context, view, () => context.fill(this.path, rule));
  }

  /** `width` in CSS pixels, `dash` in millimetres. */
  stroke({ context, view }: Canvas, width: number, dash: readonly number[] = []): void {
    this.placed(context, view, () => {
      context.lineWidth = width / view.scale;
      context.setLineDash(dash as number[]);
      context.stroke(this.path);
    });
  }

  /** Drawn where a map of the plane takes it. */
  strokeMapped({ context, view }: Canvas, width: number, map: Transform): void {
    this.placed(
      context,
      view,
      () => {
        context.lineWidth = width / view.scale / meanScale(map);
        context.stroke(this.path);
      },
      map,
    );
  }

  private placed(
    context: Canvas['context'],
    view: Canvas['view'],
    paint: () => void,
    map: Transform = IDENTITY,
  ): void {
    const [x, y] = applyTransform(map, this.origin ?? [0, 0]);
    context.save();
    context.transform(view.scale, 0, 0, -view.scale, view.scale * x + view.x, view.y - view.scale * y);
    context.transform(map[0], map[1], map[2], map[3], 0, 0);
    paint();
    context.restore();
  }
}
