import { boxRing, grownBox, unionBox } from '@calque/core/geometry';
import { boxOf, openAssembly, partsOf, type Model } from '@calque/core/model';
import type { Brush } from '../brush';
import { label } from './overlay';
import { ringPath } from './trace';

/** The frame stands so far from what it holds, CSS pixels. */
const CLEAR = 10;

/** A frame around the parts of the group that is being edited, with its name, so that it is never forgotten open. */
export function paintOpenGroup(brush: Brush, model: Model, planeId: string): void {
  const open = openAssembly(model);
  if (!open?.open || open.open.placed.planeId !== planeId) return;
  const parts = partsOf(model, open);
  if (parts.length === 0) return;
  const { context, palette, view } = brush,
    box = grownBox(parts.map(boxOf).reduce(unionBox), CLEAR / view.scale);
  context.save();
  context.strokeStyle = palette.now;
  context.lineWidth = 1.5;
  context.setLineDash([2, 4]);
  context.beginPath();
  ringPath(brush, boxRing(box));
  context.stroke();
  context.restore();
  const [x, y] = brush.at([box[0], box[3]]);
  label(brush, `Editing ${open.name}`, x, y - 6, palette.now);
}
