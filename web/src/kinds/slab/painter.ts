import { flatRings, type Slab } from '@calque/core/model';
import { kept } from '@/table/painters/kept';
import type { Painter } from '@/table/painters/painter';
import { PlanePath } from '@/table/painters/plane-path';

const TINT_ALPHA = 0.06;
const fillOf = kept((e: Slab) => {
  const path = new PlanePath();
  for (const ring of flatRings(e)) path.ring(ring);
  return path;
});

export const SLAB_PAINTER: Painter<Slab> = {
  strokes: true,
  below({ brush, alpha }, e) {
    brush.context.globalAlpha = alpha * TINT_ALPHA;
    fillOf(e).fill(brush, 'evenodd');
  },
};
