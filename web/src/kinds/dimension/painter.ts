import { dimensionWords, figurePlace, type Dimension } from '@calque/core/model';
import { LEAST_LETTERS, write } from '@/table/painters/letters';
import type { Painter } from '@/table/painters/painter';

export const DIMENSION_PAINTER: Painter<Dimension> = {
  strokes: true,
  above({ brush, style }, e) {
    const pixels = e.height * brush.view.scale;
    if (pixels < LEAST_LETTERS) return;
    const { at, angle } = figurePlace(e);
    write(brush, dimensionWords(e, style), at, angle, pixels, 'center');
  },
};
