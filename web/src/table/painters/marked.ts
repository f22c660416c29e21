import { applyTransform, type Transform } from '@calque/core/geometry';
import type { Brush } from '../tool';
import { PlanePath } from './plane-path';

/** Lines to be lit up, in plane millimetres, each set in a colour and with its width in CSS pixels. */
export interface Marked { sets: { path: PlanePath; colour: 'found' | 'known' | 'differs'; width: number }[] }

/** Lines x0, y0, x1, y1 on a sheet as a path of the plane. */
export function sheetPath(lines: Iterable<readonly number[]>, placement: Transform): PlanePath {
  const path = new PlanePath();
  for (const [x0, y0, x1, y1] of lines) path.segment(applyTransform(placement, [x0, y0]), applyTransform(placement, [x1, y1]));
  return path;
}

export function paintMarked(brush: Brush, { sets }: Marked): void {
  const { context, ink } = brush;
  context.save();
  context.lineCap = 'round';
  for (const { path, colour, width } of sets) {
    context.strokeStyle = ink[colour];
    path.stroke(brush, width);
  }
  context.restore();
}
