import type { Point } from '@calque/core/geometry';
import { foundWords, type Found } from '../snapping';
import type { Brush } from '../brush';
import { segmentPath } from './trace';

/** Lights up the geometry that the pick has found, with its name beside it. */
export function paintFound(brush: Brush, found: Found): void {
  const { context, palette } = brush;
  context.save();
  context.strokeStyle = palette.found;
  context.lineWidth = 3;
  context.globalAlpha = 0.55;
  context.beginPath();
  for (const line of found.lit)
    for (let i = 1; i < line.length; i++) segmentPath(brush, line[i - 1], line[i]);
  context.stroke();
  context.globalAlpha = 1;
  const [x, y] = brush.at(found.plane);
  context.fillStyle = '#fffefa';
  context.lineWidth = 2;
  context.beginPath();
  context.arc(x, y, 4.5, 0, 2 * Math.PI);
  context.fill();
  context.stroke();
  label(brush, foundWords(found), x + 12, y + 18, palette.found);
  context.restore();
}

/** The cursor where keys have moved it. */
export function paintKeyCursor(brush: Brush, [x, y]: readonly [number, number]): void {
  const { context, palette } = brush;
  context.save();
  context.strokeStyle = palette.now;
  context.lineWidth = 1.5;
  context.beginPath();
  for (const [dx, dy] of [
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ]) {
    context.moveTo(x + 4 * dx, y + 4 * dy);
    context.lineTo(x + 16 * dx, y + 16 * dy);
  }
  context.stroke();
  context.restore();
}

/** What the cursor has touched, small, so that it does not hide what lies there. */
export function paintTouched(brush: Brush, touched: readonly { at: Point }[]): void {
  const { context, palette } = brush;
  context.save();
  context.strokeStyle = palette.found;
  context.lineWidth = 1.5;
  context.beginPath();
  for (const { at } of touched) {
    const [x, y] = brush.at(at);
    context.moveTo(x + 7, y);
    context.arc(x, y, 7, 0, 2 * Math.PI);
  }
  context.stroke();
  context.restore();
}

/** The origin of the plane, so that it is never guessed. */
export function paintOrigin(brush: Brush): void {
  const { context, palette } = brush;
  const [x, y] = brush.at([0, 0]);
  context.save();
  context.strokeStyle = palette.soft;
  context.lineWidth = 1;
  context.beginPath();
  context.moveTo(x - 7, y);
  context.lineTo(x + 16, y);
  context.moveTo(x, y + 7);
  context.lineTo(x, y - 16);
  context.stroke();
  context.restore();
}

export function label(brush: Brush, text: string, x: number, y: number, colour: string, size = 12): void {
  const { context } = brush;
  context.save();
  context.font = `600 ${size}px "Archivo Variable", sans-serif`;
  context.lineJoin = 'round';
  context.strokeStyle = 'rgba(255,254,250,0.92)';
  context.lineWidth = 4;
  context.strokeText(text, x, y);
  context.fillStyle = colour;
  context.fillText(text, x, y);
  context.restore();
}

/** A measured stretch with its end marks and its figure. */
export function paintStretch(
  brush: Brush,
  from: Point,
  to: Point,
  text: string,
  colour: string,
  dashed = false,
): void {
  const { context } = brush;
  const [x0, y0] = brush.at(from),
    [x1, y1] = brush.at(to);
  const length = Math.hypot(x1 - x0, y1 - y0) || 1;
  const nx = (-(y1 - y0) / length) * 6,
    ny = ((x1 - x0) / length) * 6;
  context.save();
  context.strokeStyle = colour;
  context.lineWidth = 2;
  if (dashed) context.setLineDash([6, 4]);
  context.beginPath();
  context.moveTo(x0, y0);
  context.lineTo(x1, y1);
  context.stroke();
  context.setLineDash([]);
  context.beginPath();
  for (const [x, y] of [
    [x0, y0],
    [x1, y1],
  ]) {
    context.moveTo(x - nx, y - ny);
    context.lineTo(x + nx, y + ny);
  }
  context.stroke();
  if (text) label(brush, text, (x0 + x1) / 2 + 8, (y0 + y1) / 2 - 8, colour);
  context.restore();
}
