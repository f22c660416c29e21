import { boxRing, applyTransform, compose, type Box, type Transform } from '@calque/core/geometry';
import { ofType, type Model, type Underlay } from '@calque/core/model';
import type { FileInfo } from '@/project/wire';
import type { Ink } from '../ink';
import type { TileCache } from '../tile-cache';
import type { Viewport } from '../viewport';

/** Paints underlays of a storey, the lowest first: paper, then its picture, cropped and faded. */
export function paintSheets(context: CanvasRenderingContext2D, model: Model, files: readonly FileInfo[], tiles: TileCache, view: Viewport, ink: Ink, storeyId: string, currentId: string | null, screen: Box, pixelRatio: number): void {
  const shown = ofType(model, 'underlay').filter((u) => u.visible && u.storeyId === storeyId).sort((a, b) => a.order - b.order);
  shown.forEach((u, i) => paintUnderlay(context, u, files, tiles, view, ink, i > 0, u.id === currentId, screen, pixelRatio));
}

const screenFromPlane = (v: Viewport): Transform => [v.scale, 0, 0, -v.scale, v.x, v.y];

function paintUnderlay(context: CanvasRenderingContext2D, u: Underlay, files: readonly FileInfo[], tiles: TileCache, view: Viewport, ink: Ink, above: boolean, current: boolean, screen: Box, pixelRatio: number): void {
  const screenFromSheet = compose(screenFromPlane(view), u.placement);
  const corners = boxRing(u.crop).map((p) => applyTransform(screenFromSheet, p));
  const outline = () => {
    context.beginPath();
    corners.forEach(([x, y], i) => (i === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
    context.closePath();
  };
  context.save();
  // A sheet above others is laid on like tracing paper: its ink adds to what lies below.
  if (above) context.globalCompositeOperation = 'multiply';
  else {
    context.shadowColor = 'rgba(23,39,58,0.18)';
    context.shadowBlur = 14;
    context.shadowOffsetY = 3;
  }
  context.fillStyle = ink.paper;
  outline();
  context.fill();
  context.shadowColor = 'transparent';
  context.clip();
  const file = files.find((f) => f.id === u.fileId);
  const sheet = file?.sheets.find((s) => s.page === u.page);
  context.globalAlpha = 1 - u.fade;
  if (file && sheet) tiles.paint(context, file, sheet, screenFromSheet, u.crop, screen, pixelRatio);
  if (ink.dim && !above) {
    context.globalAlpha = 1;
    context.fillStyle = ink.dim;
    outline();
    context.fill();
  }
  context.restore();
  context.save();
  context.strokeStyle = current ? ink.now : ink.edge;
  context.lineWidth = current ? 1.5 : 1;
  context.globalAlpha = current ? 0.55 : 1;
  outline();
  context.stroke();
  context.restore();
}
