import type { Point } from '@calque/core/geometry';
import type { Brush } from '../brush';

const FONT = '"Archivo Variable", sans-serif';
/** Letters smaller than this cannot be read, CSS pixels. */
export const LEAST_LETTERS = 4;
/** Height of what is written for the person at the screen, CSS pixels. */
export const SCREEN_LETTERS = 12;

/** Writes at a place of the plane, turned by an angle (radians), letters so many CSS pixels high. */
export function write(
  brush: Brush,
  text: string,
  at: Point,
  angle: number,
  pixels: number,
  align: CanvasTextAlign,
): void {
  const { context } = brush,
    [x, y] = brush.at([at[0], at[1]]);
  context.save();
  context.translate(x, y);
  context.rotate(-angle);
  context.font = `${pixels}px ${FONT}`;
  context.textBaseline = 'alphabetic';
  context.textAlign = align;
  context.fillText(text, 0, 0);
  context.restore();
}
