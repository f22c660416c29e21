import type { Point } from '@calque/core/geometry';
import type { Brush } from '../tool';

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
    this.path.moveTo(...points[0] as [number, number]);
    // `closePath` goes through the whole path each time in Chromium; running on over the first edge gives the same corner.
    for (const p of [...points.slice(1), points[0], points[1]]) this.path.lineTo(p[0], p[1]);
  }

  segment(from: Point, to: Point): void {
    const a = this.local(from), b = this.local(to);
    this.path.moveTo(a[0], a[1]);
    this.path.lineTo(b[0], b[1]);
  }

  fill({ context, view }: Brush, rule: CanvasFillRule = 'nonzero'): void {
    this.placed(context, view, () => context.fill(this.path, rule));
  }

  /** `width` in CSS pixels. */
  stroke({ context, view }: Brush, width: number): void {
    this.placed(context, view, () => {
      context.lineWidth = width / view.scale;
      context.stroke(this.path);
    });
  }

  private placed(context: Brush['context'], view: Brush['view'], paint: () => void): void {
    const [x, y] = this.origin ?? [0, 0];
    context.save();
    context.transform(view.scale, 0, 0, -view.scale, view.scale * x + view.x, view.y - view.scale * y);
    paint();
    context.restore();
  }
}
