import type { Point } from '@calque/core/geometry';
import type { Loose } from '@calque/core/model';
import { kept } from './kept';
import type { Painter } from './painter';
import { PlanePath } from './plane-path';

/** What is painted by its lines, with a tint within rings of it. */
export function tinted<E extends Loose>(
  alpha: number,
  ringsOf: (e: E) => readonly (readonly Point[])[],
): Painter<E> {
  const fillOf = kept((e: E) => {
    const path = new PlanePath();
    for (const ring of ringsOf(e)) path.ring(ring);
    return path;
  });
  return {
    strokes: true,
    below({ brush, alpha: own }, e) {
      brush.context.globalAlpha = own * alpha;
      fillOf(e).fill(brush, 'evenodd');
    },
  };
}
