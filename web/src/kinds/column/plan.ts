import { get, USUAL_STOREY_HEIGHT, type ColumnSection } from '@calque/core/model';
import type { Point } from '@calque/core/geometry';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { pair } from '@/drawing/plan-points';
import type { Shape } from '@/drawing/drawn';
import type { Context, ShapePlan, Variant } from '@/drawing/shape-tool';
import { lengthField, typedLength } from '@/table/tools/geometry';
import type { Table } from '@/table/table';

/** A column as it stands on the storey in hand: as high as that. */
export function columnAt(table: Table, at: Point, section: ColumnSection): Shape & { type: 'column' } {
  const storey = get(table.session.state.model, 'storey', table.state.getState().planeId);
  return {
    type: 'column',
    at: pair(at),
    angle: 0,
    section,
    foot: 0,
    height: storey?.height ?? USUAL_STOREY_HEIGHT,
    heightAssumed: storey?.heightAssumed ?? true,
  };
}

type Size = 'width' | 'depth' | 'diameter';

/** One way to put a column: sizes that are typed are kept for the next ones. */
const byClick = (
  words: string,
  sizes: readonly Size[],
  section: (sizes: Record<Size, number>) => ColumnSection,
): Variant => ({
  words,
  steps: ['click its middle, or type its size'],
  asksFirst: true,
  shape: ([at], { table }) => columnAt(table, at, section(useBuildingSizes.getState().column)),
  fields: (_points, _live, { style }) =>
    sizes.map((size) => lengthField(size, size, useBuildingSizes.getState().column[size], style)),
  typed: (_points, values, live, { style }: Context) => {
    const column = { ...useBuildingSizes.getState().column };
    for (const size of sizes) {
      const mm = typedLength(values[size], column[size], style);
      if (typeof mm === 'string') return mm;
      if (!(mm > 0)) return `The ${size} of a column must be above 0.`;
      column[size] = mm;
    }
    useBuildingSizes.setState({ column });
    return [live];
  },
});

export const COLUMN_PLAN: ShapePlan = {
  id: 'column',
  noun: 'Column',
  label: 'Put a column',
  variants: [
    byClick('rectangular', ['width', 'depth'], ({ width, depth }) => ({ form: 'rectangle', width, depth })),
    byClick('round', ['diameter'], ({ diameter }) => ({ form: 'round', diameter })),
  ],
};
