import { applyTransform, flattenPiece } from '@calque/core/geometry';
import { ofType, type Model, type Underlay } from '@calque/core/model';
import { rowsOf, type InkCache } from '../ink-cache';
import type { Brush } from '../brush';
import { sheetPath } from './marked';
import type { PlanePath } from './plane-path';

/** How much of a suggested line shows, and its width in CSS pixels. */
const ALPHA = 0.55,
  WIDTH = 1.5;
/** What was fitted on request shows more; its chords stray by this at most, sheet points. */
const FITTED_WIDTH = 2.5,
  SHEET_CHORDS = 0.02;

/** Lines that were read from the ink of scans, or fitted to it at the cursor, faint: they are suggestions. */
export function paintInks(brush: Brush, model: Model, inks: InkCache, planeId: string): void {
  const { context, palette } = brush;
  for (const u of ofType(model, 'underlay')) {
    if (u.planeId !== planeId || !u.visible) continue;
    const path = pathOf(u, inks);
    context.save();
    context.strokeStyle = palette.found;
    context.globalAlpha = ALPHA;
    path?.stroke(brush, WIDTH);
    context.lineWidth = FITTED_WIDTH;
    context.beginPath();
    for (const piece of inks.fitted(u)?.pieces ?? [])
      flattenPiece(piece, SHEET_CHORDS).forEach((p, i) =>
        context[i === 0 ? 'moveTo' : 'lineTo'](...brush.at(applyTransform(u.placement, p))),
      );
    context.stroke();
    context.restore();
  }
}

const paths = new WeakMap<
  Float64Array,
  { placement: Underlay['placement']; crop: Underlay['crop']; path: PlanePath }
>();

/** Those within the crop as a path of the plane, made anew when the sheet is moved. */
function pathOf(u: Underlay, inks: InkCache): PlanePath | null {
  const ink = inks.of(u);
  if (ink?.state !== 'read' || !ink.shown) return null;
  const known = paths.get(ink.lines);
  if (known && known.placement === u.placement && known.crop === u.crop) return known.path;
  const [x0, y0, x1, y1] = u.crop;
  const inside = (x: number, y: number) => x >= x0 && x <= x1 && y >= y0 && y <= y1;
  const path = sheetPath(
    rowsOf(ink.lines).filter(([a, b, c, d]) => inside(a, b) && inside(c, d)),
    u.placement,
  );
  paths.set(ink.lines, { placement: u.placement, crop: u.crop, path });
  return path;
}
