import { worldFromPlane, type Point } from '@calque/core/geometry';
import { MARK_WORDS, planeOf, type Mark } from '@calque/core/model';
import { frameOf } from '@calque/core/planes';
import { formatLength } from '@calque/core/units';
import { pair } from '@/drawing/plan-points';
import type { Context, ShapePlan } from '@/drawing/shape-tool';
import { useTraceState } from '@/drawing/state';
import { angleField, angleOf, distance, typedPoint } from '@/table/tools/geometry';

/** A mark beside letters of the usual height: so many times as large. */
const TIMES_LETTERS = 4;
const LONGEST = 40;

/** What was typed for the marks to come; null lets each take what fits where it stands. */
const typed: Record<Mark, string | null> = { north: null, level: null, section: null };

/** How high a place of the plane in hand lies, as level marks say it: "+2,700". */
function levelWords({ table, style }: Context, at: Point): string {
  const plane = planeOf(table.session.state.model, table.state.getState().planeId);
  if (!plane) return '';
  const [, , z] = worldFromPlane(frameOf(plane), at);
  const figure = formatLength(Math.abs(z), style);
  const sign = z < 0 ? '−' : '+';
  return `${/[1-9]/.test(figure) ? sign : '±'}${figure}`;
}

const textFor = (mark: Mark, context: Context, at: Point): string =>
  typed[mark] ?? (mark === 'level' ? levelWords(context, at) : mark === 'north' ? 'N' : 'A');

const POINTS: Readonly<Record<Mark, readonly string[]>> = {
  north: ['click where it stands', 'click where north is, or type the angle and what it says'],
  level: ['click the level, or press Tab to type what it says'],
  section: ['click where it stands', 'click the way it looks, or type the angle and its name'],
};

/** One plan for each mark: a level mark stands by one click, the others point at the second. */
export const planOf = (mark: Mark): ShapePlan => {
  const noun = MARK_WORDS[mark][0].toUpperCase() + MARK_WORDS[mark].slice(1);
  return {
    id: `symbol-${mark}`,
    noun,
    label: `Draw a ${MARK_WORDS[mark]}`,
    variants: [
      {
        words: '',
        steps: POINTS[mark],
        shape: ([at, to], context) => ({
          type: 'symbol',
          mark,
          at: pair(at),
          angle: to && distance(at, to) > 1e-6 ? angleOf(at, to) : mark === 'north' ? Math.PI / 2 : 0,
          size: TIMES_LETTERS * useTraceState.getState().textHeight,
          text: textFor(mark, context, at),
        }),
        fields: ([at], live, context) => [
          ...(at ? [angleField('angle', 'angle', angleOf(at, live))] : []),
          { id: 'says', label: 'says', unit: 'text', live: textFor(mark, context, at ?? live) },
        ],
        typed: ([at], values, live, context) => {
          const says = values.says?.trim() ?? '';
          if (says.length > LONGEST) return `A mark says little: at most ${LONGEST} letters.`;
          if (says !== '') typed[mark] = says;
          if (!at) return mark === 'level' ? [live] : [];
          if (!values.angle?.trim()) return [live];
          const to = typedPoint({ ...values, length: '1' }, at, live, context.style);
          return typeof to === 'string' ? to : [to];
        },
      },
    ],
  };
};
