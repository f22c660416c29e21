import { painterOf } from '@/kinds/painters';
import type { Transform } from '@calque/core/geometry';
import type { Traced } from '@calque/core/model';
import type { Brush } from '../brush';
import { drawnOf } from '../trace-cache';
import type { Viewport } from '../viewport';
import { PlanePath } from './plane-path';

/** Beyond so many elements a picture of them is moved: drawing ten thousand anew takes longer than a frame. */
const MOST_DRAWN = 1000;

/** The lines of elements as one path, to be shown where an edit would take them: made once, however often they are moved. */
export class MovedPath {
  private path: PlanePath | null = null;
  private picture: { canvas: HTMLCanvasElement; view: Viewport; colour: string } | null = null;

  constructor(private readonly elements: readonly Traced[]) {}

  stroke(brush: Brush, colour: string, map: Transform): void {
    const { context } = brush,
      shifted = map[0] === 1 && map[1] === 0 && map[2] === 0 && map[3] === 1;
    if (shifted && this.elements.length > MOST_DRAWN) return this.blit(brush, colour, map[4], map[5]);
    context.save();
    context.strokeStyle = colour;
    this.lines().strokeMapped(brush, 1.5, map);
    context.restore();
  }

  private lines(): PlanePath {
    return (this.path ??= this.make());
  }

  /** What was in sight when the view was last moved, as a picture. */
  private blit({ context, view, ...rest }: Brush, colour: string, dx: number, dy: number): void {
    const { width, height } = context.canvas,
      ratio = context.getTransform().a,
      p = this.picture;
    if (
      !p ||
      p.colour !== colour ||
      p.canvas.width !== width ||
      p.canvas.height !== height ||
      p.view.scale !== view.scale ||
      p.view.x !== view.x ||
      p.view.y !== view.y
    ) {
      const canvas = document.createElement('canvas');
      canvas.width = width;
      canvas.height = height;
      const own = canvas.getContext('2d')!;
      own.scale(ratio, ratio);
      own.strokeStyle = colour;
      this.lines().stroke({ ...rest, context: own, view }, 1.5);
      this.picture = { canvas, view, colour };
    }
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.drawImage(
      this.picture!.canvas,
      Math.round(dx * view.scale * ratio),
      Math.round(-dy * view.scale * ratio),
    );
    context.restore();
  }

  private make(): PlanePath {
    const path = new PlanePath();
    for (const e of drawnOf(this.elements)) {
      const outline = painterOf(e).outline?.(e);
      if (outline) path.ring(outline);
      else path.element(e);
    }
    return path;
  }
}
