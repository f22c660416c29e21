import type { Raster } from '@calque/core/ink';

type Point = readonly [number, number];

/** A picture drawn with soft edges, in pixels (y down), on paper of any brightness. */
export class Painting {
  private readonly ink: Float64Array;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.ink = new Float64Array(width * height);
  }

  private cover(
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    depth: (x: number, y: number) => number,
  ): void {
    for (let y = Math.max(0, Math.floor(y0)); y < Math.min(this.height, Math.ceil(y1)); y++) {
      for (let x = Math.max(0, Math.floor(x0)); x < Math.min(this.width, Math.ceil(x1)); x++) {
        // How deep a pixel's middle lies within the shape says how much of it is covered.
        const share = Math.min(1, Math.max(0, depth(x + 0.5, y + 0.5) + 0.5));
        this.ink[y * this.width + x] = Math.max(this.ink[y * this.width + x], share);
      }
    }
  }

  line([x0, y0]: Point, [x1, y1]: Point, width: number): this {
    const dx = x1 - x0,
      dy = y1 - y0,
      length = Math.hypot(dx, dy),
      r = width / 2 + 1;
    this.cover(
      Math.min(x0, x1) - r,
      Math.min(y0, y1) - r,
      Math.max(x0, x1) + r,
      Math.max(y0, y1) + r,
      (x, y) => {
        const along = ((x - x0) * dx + (y - y0) * dy) / length,
          across = Math.abs((x - x0) * dy - (y - y0) * dx) / length;
        return Math.min(width / 2 - across, along, length - along);
      },
    );
    return this;
  }

  dot([cx, cy]: Point, radius: number): this {
    this.cover(
      cx - radius - 1,
      cy - radius - 1,
      cx + radius + 1,
      cy + radius + 1,
      (x, y) => radius - Math.hypot(x - cx, y - cy),
    );
    return this;
  }

  /** A filled shape with corners that turn one way (y down, clockwise). */
  shape(...corners: Point[]): this {
    const xs = corners.map((c) => c[0]),
      ys = corners.map((c) => c[1]);
    this.cover(Math.min(...xs) - 1, Math.min(...ys) - 1, Math.max(...xs) + 1, Math.max(...ys) + 1, (x, y) =>
      Math.min(
        ...corners.map(([ax, ay], i) => {
          const [bx, by] = corners[(i + 1) % corners.length];
          return ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay);
        }),
      ),
    );
    return this;
  }

  /** As a raster of one pixel to the sheet point; `paper` and `ink` grey, `chance` (0 to 1) for noise. */
  raster({
    paper = () => 255,
    ink = 20,
    noise = 0,
    chance = () => 0.5,
  }: {
    paper?: (x: number, y: number) => number;
    ink?: number;
    noise?: number;
    chance?: () => number;
  } = {}): Raster {
    const grey = new Uint8Array(this.width * this.height);
    for (let i = 0; i < grey.length; i++) {
      const bright = paper(i % this.width, Math.floor(i / this.width));
      grey[i] = Math.max(
        0,
        Math.min(255, bright + this.ink[i] * (ink - bright) + noise * (chance() + chance() + chance() - 1.5)),
      );
    }
    return { width: this.width, height: this.height, grey, scale: 1 };
  }
}
