import type { Entity, GridLine, Line, Pair, TracedArc, TracedPath, Wall } from '@calque/core/model';
import { choose } from '../acts';
import { laidPlan } from '../plan-sheet';

export const base = (id: string) => ({
  id,
  planeId: 'ground',
  source: { underlayId: null, ends: 'typed', thickness: 'typed' } as const,
});
export const wall = (id: string, from: Pair, to: Pair, thickness = 200): Wall => ({
  type: 'wall',
  ...base(id),
  from,
  to,
  thickness,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
});
export const line = (id: string, from: Pair, to: Pair): Line => ({ type: 'line', ...base(id), from, to });
export const gridLine = (id: string, name: string, from: Pair, to: Pair): GridLine => ({
  type: 'gridLine',
  ...base(id),
  from,
  to,
  name,
});
export const path = (id: string, points: Pair[], closed = false): TracedPath => ({
  type: 'path',
  ...base(id),
  points,
  bulges: points.map(() => 0).slice(closed ? 0 : 1),
  closed,
});
export const circle = (id: string, centre: Pair, radius: number): TracedArc => ({
  type: 'arc',
  ...base(id),
  centre,
  radius,
  start: 0,
  sweep: 2 * Math.PI,
});

export const SHEET = [laidPlan()];
/** Before the sheet is to scale: nine tenths of what it should be. */
export const OFF = 0.9;
export const UNSCALED = [laidPlan(OFF)];
/** What edits are shown on: a small table drawn with four lines. */
export const TABLE: Entity[] = [
  line('a', [1500, 1500], [3000, 1500]),
  line('b', [3000, 1500], [3000, 2500]),
  line('c', [3000, 2500], [1500, 2500]),
  line('d', [1500, 2500], [1500, 1500]),
];
export const ALL = ['a', 'b', 'c', 'd'];
export const TWO_WALLS = [wall('a', [1200, 1500], [5600, 1500]), wall('b', [4000, 2600], [4000, 4400])];
/** The walls of the plan, with one across. */
export const ROOM_WALLS: Entity[] = [
  wall('n', [700, 4500], [6500, 4500]),
  wall('s', [700, 700], [6500, 700]),
  wall('w', [700, 700], [700, 4500]),
  wall('e', [6500, 700], [6500, 4500]),
  wall('m', [3300, 700], [3300, 4500], 100),
];
export const OF_FOUR = choose(...ALL);
