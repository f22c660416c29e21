import {
  gridOn,
  planeOf,
  setFields,
  settingsOf,
  type DrawingGrid,
  type PlaneEntity,
} from '@calque/core/model';
import { isImperial } from '@/project/views';
import type { Table } from '@/table/table';
import { angleOf } from '@/table/tools/geometry';
import { PicksTool } from '@/table/tools/picks-tool';

/** What a grid begins with: half a metre, or a foot, each way. */
const USUAL_METRIC = 500,
  USUAL_IMPERIAL = 304.8;

/** The grid of the plane in hand; the usual one, out of sight, where none has been set. */
export function gridHere({ session, state }: Table): DrawingGrid {
  const { model } = session.state,
    spacing = isImperial(model) ? USUAL_IMPERIAL : USUAL_METRIC;
  return (
    gridOn(model, state.getState().planeId) ?? {
      origin: [0, 0],
      angle: 0,
      across: spacing,
      up: spacing,
      shown: false,
    }
  );
}

/** Has the plane in hand a grid of its own? */
export const hasOwnGrid = ({ session, state }: Table): boolean =>
  !!planeOf(session.state.model, state.getState().planeId)?.grid;

/** Changes the grid of the plane in hand: its own where it has one, else the project's. */
export function setGrid(table: Table, fields: Partial<DrawingGrid>, label: string): void {
  const { session, state } = table,
    { model } = session.state;
  const plane = planeOf(model, state.getState().planeId),
    grid = { ...gridHere(table), ...fields };
  session.do(
    plane?.grid ? setFields<PlaneEntity>(plane, { grid }) : setFields(settingsOf(model), { grid }),
    label,
  );
}

/** Gives the plane in hand a grid of its own, as the project's is now; or takes it back. */
export function setOwnGrid(table: Table, own: boolean): void {
  const { session, state } = table,
    plane = planeOf(session.state.model, state.getState().planeId);
  if (!plane) return;
  session.do(
    setFields<PlaneEntity>(plane, { grid: own ? gridHere(table) : null }),
    own ? `Give ${plane.name} a grid of its own` : `Use the project's grid on ${plane.name}`,
  );
}

export function flipGrid(table: Table): void {
  const { shown } = gridHere(table);
  setGrid(table, { shown: !shown }, shown ? 'Hide the grid' : 'Show the grid');
}

/** Two picks say where the grid begins and which way it runs. */
export function takeGridTool(table: Table): void {
  table.hold(
    new PicksTool({
      id: 'grid',
      steps: [
        'Grid: pick where it begins',
        'Pick a point in the direction in which it runs · Shift holds the axis',
      ],
      done: ([a, b]) => {
        table.layDown();
        // A second pick on the first says no direction: the grid runs level then.
        const apart = Math.hypot(b.plane[0] - a.plane[0], b.plane[1] - a.plane[1]) > 1e-9;
        setGrid(
          table,
          { origin: [...a.plane], angle: apart ? angleOf(a.plane, b.plane) : 0, shown: true },
          'Place the grid',
        );
      },
    }),
  );
}
