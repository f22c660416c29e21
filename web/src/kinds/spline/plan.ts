import { pieceDirection, pieceEnd, pieceStart, splineThrough, type Point } from '@calque/core/geometry';
import { endsOf, isRun, trackOf } from '@calque/core/model';
import type { Shape } from '@/drawing/drawn';
import type { Context, ShapePlan } from '@/drawing/shape-tool';
import { tracedIn } from '@/table/hit';
import { distance } from '@/table/tools/geometry';

/** Ends nearer than this, millimetres, are one. */
const MEETS = 1e-3;

/** The direction in which something traced runs out at a point, for a curve that goes on from there; null where nothing ends. */
function runsOut({ table }: Context, at: Point): Point | null {
  for (const e of tracedIn(table, [at[0] - 1, at[1] - 1, at[0] + 1, at[1] + 1])) {
    if (!isRun(e) || !endsOf(e)) continue;
    const { pieces } = trackOf(e),
      first = pieces[0],
      last = pieces[pieces.length - 1];
    if (distance(pieceEnd(last), at) < MEETS) return pieceDirection(last, 1);
    const back = pieceDirection(first, 0);
    if (distance(pieceStart(first), at) < MEETS) return [-back[0], -back[1]];
  }
  return null;
}

const curve = (tangent: boolean) => ({
  words: tangent ? 'running on from what it meets' : 'free at its ends',
  steps: ['click where it begins', 'click the next point', 'click the next point, or the first to close it'],
  least: 2,
  shape: (points: readonly Point[], context: Context, closed: boolean): Shape | string => {
    if (points.length < 2 || (closed && points.length < 3))
      return 'A curve needs two points, a closed one three.';
    const out = tangent ? runsOut(context, points[0]) : null,
      into = tangent ? runsOut(context, points[points.length - 1]) : null;
    return {
      type: 'spline',
      controls: splineThrough(points, { first: out, last: into && [-into[0], -into[1]] }, closed),
    };
  },
});
export const CURVE: ShapePlan = {
  id: 'curve',
  noun: 'Curve',
  label: 'Draw a curve',
  variants: [curve(true), curve(false)],
};
