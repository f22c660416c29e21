import { boxRing, applyTransform, compose, type Box, type Transform } from '@calque/core/geometry';
import { ofType, type Model, type Underlay } from '@calque/core/model';
import type { FileInfo } from '@/project/wire';
import type { Ink } from '../ink';
import type { TileCache } from '../tile-cache';
import type { Viewport } from '../viewport';

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** What painting underlays needs to know of the surface. */
export interface SheetScene { view: Viewport; ink: Ink; storeyId: string; currentId: string | null; screen: Box; pixelRatio: number }

/** Paints underlays, the lowest first: paper, then its picture, cropped and faded. */
export class SheetPainter {
  private scratch: OffscreenCanvas | null = null;

  constructor(private readonly tiles: TileCache) {}

  paint(context: CanvasRenderingContext2D, model: Model, files: readonly FileInfo[], scene: SheetScene): void {
    const shown = ofType(model, 'underlay').filter((u) => u.visible && u.storeyId === scene.storeyId).sort((a, b) => a.order - b.order);
    shown.forEach((u, i) => {
      if (i === 0) this.paintOne(context, u, files, scene, true);
      else this.paintAbove(context, u, files, scene);
    });
  }

  /** A sheet above others is laid on like tracing paper: its ink adds to what lies below. */
  private paintAbove(context: CanvasRenderingContext2D, u: Underlay, files: readonly FileInfo[], scene: SheetScene): void {
    const { width, height } = context.canvas;
    if (this.scratch?.width !== width || this.scratch.height !== height) this.scratch = new OffscreenCanvas(width, height);
    const own = this.scratch.getContext('2d')!;
    own.setTransform(1, 0, 0, 1, 0, 0);
    own.clearRect(0, 0, width, height);
    own.setTransform(context.getTransform());
    this.paintOne(own, u, files, scene, false);
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalCompositeOperation = 'multiply';
    context.drawImage(this.scratch, 0, 0);
    context.restore();
  }

  private paintOne(context: Context, u: Underlay, files: readonly FileInfo[], scene: SheetScene, lowest: boolean): void {
    const { view, ink } = scene;
    const screenFromPlane: Transform = [view.scale, 0, 0, -view.scale, view.x, view.y];
    const screenFromSheet = compose(screenFromPlane, u.placement);
    const corners = boxRing(u.crop).map((p) => applyTransform(screenFromSheet, p));
    const outline = () => {
      context.beginPath();
      corners.forEach(([x, y], i) => (i === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
      context.closePath();
    };
    const wash = (colour: string, alpha: number) => {
      context.globalAlpha = alpha;
      context.fillStyle = colour;
      outline();
      context.fill();
    };
    context.save();
    if (lowest) {
      context.shadowColor = 'rgba(23,39,58,0.18)';
      context.shadowBlur = 14;
      context.shadowOffsetY = 3;
    }
    wash('#ffffff', 1);
    context.shadowColor = 'transparent';
    context.clip();
    const file = files.find((f) => f.id === u.fileId);
    const sheet = file?.sheets.find((s) => s.page === u.page);
    if (file && sheet) this.tiles.paint(context, file, sheet, screenFromSheet, u.crop, scene.screen, scene.pixelRatio);
    // Fading lays paper over the whole picture: tiles overlap, and each on its own would show twice.
    if (u.fade > 0) wash('#ffffff', u.fade);
    if (ink.dim && lowest) wash(ink.dim, 1);
    context.restore();
    context.save();
    const current = u.id === scene.currentId;
    context.strokeStyle = current ? ink.now : ink.edge;
    context.lineWidth = current ? 1.5 : 1;
    context.globalAlpha = current ? 0.55 : 1;
    outline();
    context.stroke();
    context.restore();
  }
}
