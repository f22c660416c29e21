import { gridLines, type Grid } from '@calque/core/snapping';
import { LEAST_GRID_PIXELS } from '../snapping';
import type { Brush } from '../brush';
import { toPlane } from '../viewport';
import { segmentPath } from './trace';

/** Every so-many-th line is drawn stronger, and alone where all would run together. */
const STRONG = 5;
const FAINT_ALPHA = 0.2,
  STRONG_ALPHA = 0.32;
/** Lines so far apart on the screen (CSS pixels) show fully; closer ones are fainter, so that the drawing stays in front. */
const AT_EASE = 40;

/** The grid, as far as its lines can be told apart at this scale. */
export function paintGrid(brush: Brush, grid: Grid, size: { width: number; height: number }): void {
  const { context, view, palette } = brush;
  const [x0, y0] = toPlane(view, [0, size.height]),
    [x1, y1] = toPlane(view, [size.width, 0]);
  const every = (spacing: number) => {
    let n = 1;
    while (n * spacing * view.scale < LEAST_GRID_PIXELS) n *= STRONG;
    return n;
  };
  const step = { across: every(grid.across), up: every(grid.up) };
  context.save();
  context.strokeStyle = palette.soft;
  context.lineWidth = 1;
  const closest = Math.min(step.across * grid.across, step.up * grid.up) * view.scale;
  const lines = gridLines(grid, [x0, y0, x1, y1], step);
  for (const strong of [false, true]) {
    context.globalAlpha =
      (strong ? STRONG_ALPHA : FAINT_ALPHA) * Math.min(1, closest / AT_EASE + (strong ? 0.4 : 0));
    context.beginPath();
    for (const { from, to, number, of } of lines)
      if (((number / step[of]) % STRONG === 0) === strong) segmentPath(brush, from, to);
    context.stroke();
  }
  context.restore();
}
