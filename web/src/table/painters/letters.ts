import type { Point } from '@calque/core/geometry';
import type { Brush } from '../brush';
import { LINE, placesAround, type ScreenBox } from './word-room';

const FONT = '"Archivo Variable", sans-serif';
/** Letters smaller than this cannot be read, CSS pixels. */
export const LEAST_LETTERS = 4;
/** Height of what is written for the person at the screen, CSS pixels. */
export const SCREEN_LETTERS = 12;

/** Widths of words at the size of 1, measured once. */
const widths = new Map<string, number>();
const MOST_WIDTHS = 5000;
const MEASURED = 100;

export function widthOf(context: CanvasRenderingContext2D, text: string, weight = 400): number {
  const key = `${weight} ${text}`,
    known = widths.get(key);
  if (known !== undefined) return known;
  if (widths.size > MOST_WIDTHS) widths.clear();
  context.save();
  context.font = `${weight} ${MEASURED}px ${FONT}`;
  const width = context.measureText(text).width / MEASURED;
  context.restore();
  widths.set(key, width);
  return width;
}

/**
 * Writes lines of words level on the screen, the middle of them near a place of the plane where there is room. `reach`: how far off it may
 * be, in steps of a line; `fits`: what the whole must lie within, CSS pixels. Nothing is written where nothing is free.
 */
export function writeWhereFree(
  brush: Brush,
  lines: readonly string[],
  at: Point,
  { reach = 4, fits }: { reach?: number; fits?: (box: ScreenBox) => boolean } = {},
): void {
  const { context, room } = brush,
    [x, y] = brush.at([at[0], at[1]]),
    sizes = lines.map((l) => widthOf(context, l));
  const step: [number, number] = [0.5 * Math.max(...sizes) * SCREEN_LETTERS, SCREEN_LETTERS];
  const place = room
    ? room.place(sizes, SCREEN_LETTERS, placesAround([x, y], step, reach), fits)
    : { x: x - (Math.max(...sizes) * SCREEN_LETTERS) / 2, y, size: SCREEN_LETTERS };
  if (!place) return;
  context.save();
  context.font = `${place.size}px ${FONT}`;
  context.textAlign = 'center';
  const middle = place.x + (Math.max(...sizes) * place.size) / 2;
  lines.forEach((line, i) => context.fillText(line, middle, place.y + LINE * i * place.size));
  context.restore();
}

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
  // What has a place of its own is kept clear of by what has none.
  if (brush.room) takeTurned(brush, text, [x, y], { angle, pixels, align });
}

function takeTurned(
  { context, room }: Brush,
  text: string,
  [x, y]: Point,
  { angle, pixels, align }: { angle: number; pixels: number; align: CanvasTextAlign },
): void {
  const width = widthOf(context, text) * pixels,
    from = { left: 0, center: -width / 2 }[align as string] ?? -width;
  const ux = Math.cos(angle),
    uy = -Math.sin(angle);
  const corners = [
    [from, 0.2],
    [from + width, 0.2],
    [from + width, -0.8],
    [from, -0.8],
  ].map(([along, down]) => [x + along * ux - down * pixels * uy, y + along * uy + down * pixels * ux]);
  const xs = corners.map((p) => p[0]),
    ys = corners.map((p) => p[1]);
  room!.take([Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]);
}
