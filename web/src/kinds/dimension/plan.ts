import { pieceAt, placeOnPiece, distanceToPiece, type Point } from '@calque/core/geometry';
import { anchorAt, piecesOf, type Anchor, type Dimension, type Pair } from '@calque/core/model';
import { tracedAt, tracedIn } from '@/table/hit';
import { distance } from '@/table/tools/geometry';
import { useTraceState } from '@/drawing/state';
import type { Shape } from '@/drawing/drawn';
import type { Context, ShapePlan, Variant } from '@/drawing/shape-tool';

const pair = (p: Point): Pair => [p[0], p[1]];
const dimension = (
  measures: Dimension['measures'],
  points: readonly Point[],
  on: (Anchor | null)[],
  at: Point,
): Shape => ({
  type: 'dimension',
  measures,
  points: points.map(pair),
  on,
  at: pair(at),
  height: useTraceState.getState().textHeight,
});

/** What a picked point rests on, so that the figure follows it. */
const restsOn = ({ table }: Context, p: Point): Anchor | null =>
  anchorAt(tracedIn(table, [p[0] - 1, p[1] - 1, p[0] + 1, p[1] + 1]), [p[0], p[1]]);

const ENDS = ['click the first point', 'click the second point', 'click where the dimension line runs'];
const SAME = 'The two points are one: there is nothing to measure. Pick another.';

/** Beside the two points a dimension is upright, above or below them level. */
function levelOrUpright(a: Point, b: Point, at: Point): 'horizontal' | 'vertical' {
  const beside = at[0] < Math.min(a[0], b[0]) || at[0] > Math.max(a[0], b[0]),
    above = at[1] < Math.min(a[1], b[1]) || at[1] > Math.max(a[1], b[1]);
  if (beside !== above) return beside ? 'vertical' : 'horizontal';
  return Math.abs(b[0] - a[0]) >= Math.abs(b[1] - a[1]) ? 'horizontal' : 'vertical';
}

const between = (
  words: string,
  measures: (a: Point, b: Point, at: Point) => Dimension['measures'],
): Variant => ({
  words,
  steps: ENDS,
  shape: ([a, b, at], context) => {
    if (distance(a, b) < 1e-6) return SAME;
    const place = at ?? b;
    return dimension(measures(a, b, place), [a, b], [restsOn(context, a), restsOn(context, b)], place);
  },
});

/** Points that lie within this of one line, millimetres, are measured along it. */
const IN_LINE = 1;

const chained: Variant = {
  words: 'one after another',
  steps: ['click where the dimension line runs', 'click the first point', 'click the next point'],
  least: 3,
  shape: (points, context) => {
    const [at, ...ends] = points;
    if (ends.length < 2) return SAME;
    const first = ends[0],
      last = ends[ends.length - 1],
      l = distance(first, last);
    const inLine =
      l > 0 &&
      ends.every(
        (p) =>
          Math.abs((last[0] - first[0]) * (p[1] - first[1]) - (last[1] - first[1]) * (p[0] - first[0])) / l <=
          IN_LINE,
      );
    const measures = inLine
      ? 'aligned'
      : Math.abs(last[0] - first[0]) >= Math.abs(last[1] - first[1])
        ? 'horizontal'
        : 'vertical';
    return ends
      .slice(1)
      .map((b, i) => dimension(measures, [ends[i], b], [restsOn(context, ends[i]), restsOn(context, b)], at));
  },
};

const radius: Variant = {
  words: 'of a radius',
  steps: ['click an arc or a circle', 'click where the figure goes'],
  shape: ([p, at], { table }) => {
    const e = tracedAt(table, p),
      place = at ?? p;
    const round =
      e &&
      piecesOf(e)
        .filter((piece) => piece.kind === 'arc')
        .sort((a, b) => distanceToPiece(a, p) - distanceToPiece(b, p))[0];
    if (!e || !round) return 'Nothing round has been traced here: click an arc or a circle.';
    const centre: Point = [round.arc.cx, round.arc.cy],
      end = pieceAt(round, e.type === 'arc' ? 0 : placeOnPiece(round, p));
    // An arc element's own grips are its ends and, last, its centre: the radius follows it.
    const on =
      e.type === 'arc'
        ? [
            { id: e.id, grip: e.sweep >= 2 * Math.PI - 1e-9 ? 4 : 3 },
            { id: e.id, grip: 0 },
          ]
        : [null, null];
    return dimension('radius', [centre, end], on, place);
  },
};

const angle: Variant = {
  words: 'of an angle',
  steps: [
    'click the corner',
    'click a point on one leg',
    'click a point on the other leg',
    'click where the figure goes',
  ],
  shape: ([c, a, b, at], context) => {
    const second = b ?? a,
      place = at ?? second;
    if (distance(c, a) < 1e-6 || distance(c, second) < 1e-6)
      return 'A leg needs a length: pick a point away from the corner.';
    return dimension(
      'angle',
      [c, a, second],
      [c, a, second].map((p) => restsOn(context, p)),
      place,
    );
  },
};

export const DIMENSION: ShapePlan = {
  id: 'dimension',
  noun: 'Dimension',
  label: 'Draw a dimension',
  variants: [
    between('along its points', () => 'aligned'),
    between('level or upright', levelOrUpright),
    chained,
    radius,
    angle,
  ],
};
