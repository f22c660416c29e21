import type { Point } from '@calque/core/geometry';
import { nextGridName, ofType } from '@calque/core/model';
import { angleField, angleOf, distance, lengthField, typedPoint } from '@/table/tools/geometry';
import type { Context, ShapePlan } from '@/drawing/shape-tool';

/** The name typed for the grid line in hand; null takes the next one by itself. */
let typedName: string | null = null;

const nameFor = ({ table }: Context, from: Point, to: Point): string =>
  typedName ??
  nextGridName(
    ofType(table.session.state.model, 'gridLine').filter((l) => l.planeId === table.state.getState().planeId),
    from,
    to,
  );

const LONGEST_NAME = 12;

export const GRID_LINE: ShapePlan = {
  id: 'grid-line',
  noun: 'Grid line',
  label: 'Draw a grid line',
  variants: [
    {
      words: '',
      steps: [
        'click the end at which its name stands',
        'click its other end, or type length, angle and name · Shift holds the axis',
      ],
      shape: ([a, b], context) => {
        if (distance(a, b) < 1e-6) return 'A grid line needs a length: pick another point.';
        const name = nameFor(context, a, b);
        return { type: 'gridLine', from: [a[0], a[1]], to: [b[0], b[1]], name };
      },
      fields: ([a], live, context) => {
        // Where the next one begins, what was typed for the last is done with.
        if (!a) typedName = null;
        return a === undefined
          ? null
          : [
              lengthField('length', 'length', distance(a, live), context.style),
              angleField('angle', 'angle', angleOf(a, live)),
              {
                id: 'name',
                label: 'name',
                unit: 'text',
                live: distance(a, live) < 1e-6 ? '' : nameFor(context, a, live),
              },
            ];
      },
      typed: ([a], values, live, context) => {
        const name = values.name?.trim() ?? '';
        if (name.length > LONGEST_NAME)
          return `A grid line's name stands in a small ring: at most ${LONGEST_NAME} letters.`;
        const to = typedPoint(values, a, live, context.style);
        if (typeof to === 'string') return to;
        typedName = name || null;
        return [to];
      },
    },
  ],
};
