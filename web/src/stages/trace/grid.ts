import { settingsOf, setFields, type DrawingGrid } from '@calque/core/model';
import type { ProjectSession } from '@/project/session';
import { isImperial } from '@/project/views';
import type { Table } from '@/table/table';
import { angleOf } from '@/table/tools/geometry';
import { PicksTool } from '@/table/tools/picks-tool';

/** What a grid begins with: half a metre, or a foot, each way. */
const USUAL_METRIC = 500,
  USUAL_IMPERIAL = 304.8;

/** The project's grid; the usual one, out of sight, where none has been set. */
export function gridOf(session: ProjectSession): DrawingGrid {
  const { model } = session.state,
    spacing = isImperial(model) ? USUAL_IMPERIAL : USUAL_METRIC;
  return settingsOf(model).grid ?? { origin: [0, 0], angle: 0, across: spacing, up: spacing, shown: false };
}

export function setGrid(session: ProjectSession, fields: Partial<DrawingGrid>, label: string): void {
  session.do(setFields(settingsOf(session.state.model), { grid: { ...gridOf(session), ...fields } }), label);
}

export function flipGrid(session: ProjectSession): void {
  const { shown } = gridOf(session);
  setGrid(session, { shown: !shown }, shown ? 'Hide the grid' : 'Show the grid');
}

/** Two picks say where the grid begins and which way it runs. */
export function takeGridTool(table: Table): void {
  table.take(
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
          table.session,
          { origin: [...a.plane], angle: apart ? angleOf(a.plane, b.plane) : 0, shown: true },
          'Place the grid',
        );
      },
    }),
  );
}
