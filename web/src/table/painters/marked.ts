import { applyTransform, type Point, type Transform } from '@calque/core/geometry';
import type { Brush } from '../brush';
import { widthOf } from './letters';
import { label } from './overlay';
import { PlanePath } from './plane-path';

type MarkColour = 'found' | 'known' | 'differs' | 'now' | 'assumed';

/** What is lit up on the drawing, in plane millimetres: lines, each set in a colour and with its width in CSS pixels; words at their places; rings drawn larger than they are. */
export interface Marked {
  sets: { path: PlanePath; colour: MarkColour; width: number }[];
  labels?: { at: Point; text: string; colour: MarkColour }[];
  /** Half axes and turn of each ellipse, millimetres on the plane. */
  ellipses?: { at: Point; major: number; minor: number; radians: number }[];
}

/** Lines x0, y0, x1, y1 on a sheet as a path of the plane. */
export function sheetPath(lines: Iterable<readonly number[]>, placement: Transform): PlanePath {
  const path = new PlanePath();
  for (const [x0, y0, x1, y1] of lines)
    path.segment(applyTransform(placement, [x0, y0]), applyTransform(placement, [x1, y1]));
  return path;
}

/** The largest ellipse is drawn this large, CSS pixels: errors are far smaller than the sheet. */
const ELLIPSE_PIXELS = 22,
  THINNEST_ELLIPSE = 1;

/** Size of the letters of notes, CSS pixels. */
const NOTE = 12;

/** A note beside a place, where neither other words nor the sheet's own stand; it waits where all is taken. */
function noteAt(brush: Brush, at: Point, text: string, colour: string): void {
  const { context, room } = brush,
    [x, y] = brush.at([at[0], at[1]]),
    width = widthOf(context, text, 600);
  if (!room) return label(brush, text, x + 8, y - 8, colour);
  const half = (width * NOTE) / 2;
  const beside = [14, -14, 28, -28, 44, -44].flatMap((down): [number, number][] => [
    [x + 8 + half, y - down],
    [x - 8 - half, y - down],
    [x, y - down],
  ]);
  const place = room.place([width], NOTE, beside);
  if (place) label(brush, text, place.x, place.y, colour, place.size);
}

export function paintMarked(brush: Brush, { sets, labels = [], ellipses = [] }: Marked): void {
  const { context, palette } = brush;
  context.save();
  context.lineCap = 'round';
  for (const { path, colour, width } of sets) {
    context.strokeStyle = palette[colour];
    path.stroke(brush, width);
  }
  const largest = Math.max(...ellipses.map((e) => e.major));
  for (const { at, major, minor, radians } of ellipses) {
    const k = ELLIPSE_PIXELS / largest;
    context.strokeStyle = palette.assumed;
    context.lineWidth = 1.5;
    context.beginPath();
    context.ellipse(
      ...brush.at(at),
      Math.max(THINNEST_ELLIPSE, k * major),
      Math.max(THINNEST_ELLIPSE, k * minor),
      -radians,
      0,
      2 * Math.PI,
    );
    context.stroke();
  }
  for (const { at, text, colour } of labels) noteAt(brush, at, text, palette[colour]);
  context.restore();
}
