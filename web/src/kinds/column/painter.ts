import { columnRing, type Column } from '@calque/core/model';
import { kept } from '@/table/painters/kept';
import type { Painter } from '@/table/painters/painter';
import { PlanePath } from '@/table/painters/plane-path';

const FILL_ALPHA = 0.45;
const fillOf = kept((e: Column) => {
  const path = new PlanePath();
  path.ring(columnRing(e));
  return path;
});

export const COLUMN_PAINTER: Painter<Column> = {
  strokes: true,
  below({ brush, alpha }, e) {
    brush.context.globalAlpha = alpha * FILL_ALPHA;
    fillOf(e).fill(brush, 'nonzero');
  },
};
