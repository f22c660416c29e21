import { gridLineRing, type GridLine } from '@calque/core/model';
import { SCREEN_LETTERS, write } from '@/table/painters/letters';
import type { Painter } from '@/table/painters/painter';

/** Radius of the ring around the name of a grid line, CSS pixels. */
const RING = 12;

export const GRID_LINE_PAINTER: Painter<GridLine> = {
  strokes: true,
  above({ brush }, e) {
    const { context, view } = brush,
      at = gridLineRing(e, RING / view.scale),
      [x, y] = brush.at(at);
    context.lineWidth = 1.4;
    context.beginPath();
    context.arc(x, y, RING, 0, 2 * Math.PI);
    context.stroke();
    write(brush, e.name, [at[0], at[1] - SCREEN_LETTERS / 3 / view.scale], 0, SCREEN_LETTERS, 'center');
  },
};
