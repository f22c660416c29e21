import type { Point } from '@calque/core/geometry';
import { isOnePoint, type Pair } from '@calque/core/model';
import { pair } from '@/drawing/plan-points';
import type { Shape } from '@/drawing/drawn';
import type { ShapePlan, Variant } from '@/drawing/shape-tool';
import type { Table } from '@/table/table';

const lineOf = (from: Pair, to: Pair): Shape => ({ type: 'constructionLine', from, to });

/** What can be seen of the plane: a line through a place goes from side to side of it. */
function sight(table: Table): { low: Point; high: Point } {
  const { x, y, scale } = table.view,
    { width, height } = table.state.getState().size;
  return { low: [-x / scale, (y - height) / scale], high: [(width - x) / scale, y / scale] };
}

const through = (words: string, way: 'level' | 'upright'): Variant => ({
  words,
  steps: ['click where it goes through'],
  shape: ([at], { table }) => {
    const { low, high } = sight(table);
    return way === 'level'
      ? lineOf([Math.min(low[0], at[0] - 1), at[1]], [Math.max(high[0], at[0] + 1), at[1]])
      : lineOf([at[0], Math.min(low[1], at[1] - 1)], [at[0], Math.max(high[1], at[1] + 1)]);
  },
});

export const CONSTRUCTION_PLAN: ShapePlan = {
  id: 'construction-line',
  noun: 'Construction line',
  label: 'Draw a construction line',
  variants: [
    {
      words: 'by two points',
      steps: ['click where it begins', 'click where it ends'],
      shape: ([from, to]) =>
        to && !isOnePoint(pair(from), pair(to))
          ? lineOf(pair(from), pair(to))
          : 'It has no length yet: click another place.',
    },
    through('level, through a place', 'level'),
    through('upright, through a place', 'upright'),
  ],
};
