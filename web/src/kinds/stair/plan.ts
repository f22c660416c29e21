import { treadsAlong, type Treads } from '@calque/core/building';
import { boxOfPoints, grownBox, type Point } from '@calque/core/geometry';
import {
  get,
  pairOf,
  storeysOf,
  USUAL_STOREY_HEIGHT,
  type ReturnFlight,
  type Stair,
} from '@calque/core/model';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { linesOf } from '@/drawing/plan-lines';
import type { Context, ShapePlan, Variant } from '@/drawing/shape-tool';
import type { Shape } from '@/drawing/drawn';
import { distance, lengthField, typedLength } from '@/table/tools/geometry';
import type { Table } from '@/table/table';

/** Risers are drawn this near to the way up, millimetres. */
const NEAR = 2500;
/** A usual going, where no plan shows one. */
const USUAL_GOING = 270;

/** The flight that the current sheet draws between two points. */
function seen(table: Table, from: Point, to: Point): Treads | null {
  const u = get(table.session.state.model, 'underlay', table.state.getState().underlayId);
  if (!u || u.planeId !== table.state.getState().planeId) return null;
  const { lines } = linesOf(table.session.projectId, u, () => table.showTool(), table.sheets.runsHere?.(u));
  if (!lines) return null;
  const pieces = lines.find(grownBox(boxOfPoints([from, to]), NEAR)).map((i) => lines.pieces[i]);
  return treadsAlong(from, to, pieces);
}

/** From this floor to the next above, or as high as the storey; assumed where that level comes from a height that nobody has confirmed. */
function riseHere(table: Table): Pick<Stair, 'rise' | 'riseAssumed'> {
  const { model } = table.session.state,
    storey = get(model, 'storey', table.state.getState().planeId);
  if (!storey) return { rise: USUAL_STOREY_HEIGHT, riseAssumed: true };
  const above = storeysOf(model)
    .map((s) => s.elevation - storey.elevation)
    .filter((d) => d > 0)
    .sort((a, b) => a - b);
  return above.length > 0
    ? { rise: above[0], riseAssumed: storey.heightAssumed && above[0] === storey.height }
    : { rise: storey.height, riseAssumed: storey.heightAssumed };
}

export interface Flight {
  from: Point;
  to: Point;
  risers: number;
  width: number;
}

/** The flight between two picks: as the plan draws it, else by a usual going. */
function flightOf(table: Table, from: Point, to: Point): Flight {
  const drawn = seen(table, from, to);
  return (
    drawn ?? {
      from,
      to,
      risers: Math.max(2, Math.round(distance(from, to) / USUAL_GOING) + 1),
      width: useBuildingSizes.getState().stair.width,
    }
  );
}

/** A flight as a stair of the storey in hand. */
export function stairOf(table: Table, { from, to, risers, width }: Flight, back?: ReturnFlight): Shape {
  return {
    type: 'stair',
    from: pairOf(from),
    to: pairOf(to),
    risers,
    width,
    ...(back && { back }),
    ...riseHere(table),
    thickness: useBuildingSizes.getState().stair.thickness,
  };
}

/** The flight that comes back, by the middle of its last riser; words where it does not fit. */
function backOf({ from, to, risers, width }: Flight, last: Point): ReturnFlight | string {
  const length = distance(from, to),
    [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length],
    along = (to[0] - last[0]) * ux + (to[1] - last[1]) * uy,
    left = -(last[0] - to[0]) * uy + (last[1] - to[1]) * ux,
    gap = Math.abs(left) - width;
  if (gap < -SLACK) return 'The second flight lies beside the first: click the middle of its last riser.';
  return {
    risers: Math.max(2, Math.round(along / (length / (risers - 1))) + 1),
    side: left > 0 ? 'left' : 'right',
    gap: Math.max(0, gap),
    landing: width,
  };
}
/** Flights that touch are picked with a hand that is not exact, millimetres. */
const SLACK = 100;

const sizes = {
  fields: (_points: readonly Point[], _live: Point, { style }: Context) => [
    lengthField('width', 'width', useBuildingSizes.getState().stair.width, style),
  ],
  typed: (
    _points: readonly Point[],
    values: Record<string, string>,
    _live: Point,
    { style }: Context,
  ): Point[] | string => {
    const { stair } = useBuildingSizes.getState(),
      width = typedLength(values.width, stair.width, style);
    if (typeof width === 'string') return width;
    if (!(width > 0)) return 'The width of a stair must be above 0.';
    useBuildingSizes.setState({ stair: { ...stair, width } });
    return [];
  },
};

const straight: Variant = {
  words: 'straight',
  steps: ['click the middle of its first riser', 'click the middle of its last riser'],
  shape: ([from, to], { table }) =>
    distance(from, to) < 1 ? 'First and last riser are one.' : stairOf(table, flightOf(table, from, to)),
};
const dogLeg: Variant = {
  words: 'that turns back on a landing',
  steps: [
    'click the middle of its first riser',
    'click the middle of the last riser before the landing',
    'click the middle of the last riser of the flight that comes back',
  ],
  shape: ([from, to, last], { table }) => {
    if (!to || distance(from, to) < 1) return 'First and last riser are one.';
    const flight = flightOf(table, from, to);
    if (!last) return stairOf(table, flight);
    const back = backOf(flight, last);
    return typeof back === 'string' ? back : stairOf(table, flight, back);
  },
};

export const STAIR_PLAN: ShapePlan = {
  id: 'stair',
  noun: 'Stair',
  label: 'Put a stair',
  variants: [
    { ...straight, ...sizes },
    { ...dogLeg, ...sizes },
  ],
};
