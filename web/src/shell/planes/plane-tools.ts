import type { Point } from '@calque/core/geometry';
import {
  copiesOf,
  get,
  group,
  groundStorey,
  storeysOf,
  taggedApart,
  tracedOn,
  type Change,
  type GridLine,
  type PlaneRole,
  type Storey,
  type Traced,
  onOtherStorey,
} from '@calque/core/model';
import { buildingHeight, freePlaneName, uprightPlane } from '@calque/core/planes';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import type { FieldRequest } from '@/table/tool';
import { distance, lengthField, typedLength } from '@/table/tools/geometry';
import { PicksTool } from '@/table/tools/picks-tool';

const LONGEST_NAME = 80;

/** Goes to a plane, with the topmost sheet that lies on it as the current one. */
export function goToPlane(table: Table, planeId: string, underlayId: string | null = null): void {
  table.setPlane(planeId);
  table.setUnderlay(underlayId);
  table.showAll();
}

const STOREY_NAMES = ['Ground floor', 'Upper floor', 'Second floor', 'Third floor', 'Fourth floor'];

/** Adds a storey on top of the others, and goes there. */
export function addStorey(table: Table): void {
  const { session } = table,
    storeys = storeysOf(session.state.model),
    top = storeys.at(-1);
  const name = STOREY_NAMES.find((n) => !storeys.some((s) => s.name === n)) ?? `Storey ${storeys.length + 1}`;
  const storey: Storey = {
    ...groundStorey(crypto.randomUUID()),
    name,
    ...(top && { elevation: top.elevation + top.height, height: top.height }),
  };
  if (session.do({ type: 'add', entity: storey }, `Add ${name}`)) goToPlane(table, storey.id);
}

/** The storey next above the one in hand. */
export function nextStorey(table: Table): Storey | null {
  const { model } = table.session.state,
    storey = get(model, 'storey', table.state.getState().planeId);
  return (storey && storeysOf(model).find((s) => s.elevation > storey.elevation)) ?? null;
}

/** Copies all that is traced on the storey in hand to the next one above, and goes there. */
export function copyToNext(table: Table): void {
  const { session } = table,
    { model } = session.state,
    next = nextStorey(table);
  if (!next) return;
  const traced = tracedOn(model, table.state.getState().planeId).filter((e) => e.type !== 'roof');
  const copies = taggedApart(
    model,
    copiesOf(traced, () => crypto.randomUUID(), model).map((e): Traced =>
      e.type === 'wall' ? onOtherStorey(model, e, next.id) : { ...e, planeId: next.id },
    ),
  );
  const done = session.do(
    group(copies.map((entity): Change => ({ type: 'add', entity }))),
    `Copy the trace to ${next.name}`,
  );
  if (!done) return;
  goToPlane(table, next.id);
  table.setSelection(copies.map((e) => e.id));
  session.tell(
    `${count(copies.length, 'element was', 'elements were')} copied to ${next.name}; roofs stay where they are.`,
  );
}

/** What is asked once it is known where a plane stands; left empty, what is offered is taken. */
function asking(table: Table, role: PlaneRole) {
  const style = () => lengthStyle(table.session.state.model);
  let answer: { name: string; level: number; height: number } | null = null;
  const offered = () => {
    const { model } = table.session.state;
    return { name: freePlaneName(model, role), level: 0, height: buildingHeight(model) };
  };
  return {
    answer: () => answer ?? offered(),
    request: (): Omit<FieldRequest, 'at'> => {
      const { name, level, height } = offered();
      return {
        required: true,
        fields: [
          { id: 'name', label: 'name', unit: 'text', live: name },
          lengthField('level', 'level', level, style()),
          lengthField('height', 'height', height, style()),
        ],
        hint: 'Enter makes the plane; what is left empty is as shown.',
      };
    },
    submit: (values: Record<string, string>): string | null => {
      const { name, level, height } = offered(),
        given = (values.name ?? '').trim() || name;
      if (given.length > LONGEST_NAME) return `The name is too long: at most ${LONGEST_NAME} letters.`;
      const from = typedLength(values.level, level, style()),
        high = typedLength(values.height, height, style());
      if (typeof from === 'string') return from;
      if (typeof high === 'string') return high;
      if (high <= 0) return 'The height must be above 0.';
      answer = { name: given, level: from, height: high };
      return null;
    },
  };
}

function put(
  table: Table,
  role: PlaneRole,
  from: Point,
  to: Point,
  answer: ReturnType<ReturnType<typeof asking>['answer']>,
): void {
  const plane = uprightPlane(crypto.randomUUID(), { from, to, role, ...answer });
  table.layDown();
  if (plane && table.session.do({ type: 'add', entity: plane }, `Stand up ${plane.name}`))
    goToPlane(table, plane.id);
}

/** Stands an upright plane on two points of a plan. */
export function takePlaneTool(table: Table, role: PlaneRole): void {
  const ask = asking(table, role),
    noun = role === 'section' ? 'Section' : 'Elevation';
  table.hold(
    new PicksTool({
      id: `plane-${role}`,
      steps: [`${noun}: pick its left end, as one looks at it`, 'Pick its right end · Shift holds the axis'],
      apart: (a, b) =>
        distance(a.plane, b.plane) < 1 ? 'The two ends are one point: pick another for the right end.' : null,
      refused: (message) => table.session.tell(message, true),
      ask: ask.request,
      submit: (_picks, values) => ask.submit(values),
      done: ([a, b]) => put(table, role, a.plane, b.plane, ask.answer()),
    }),
  );
}

/** The grid line that is selected alone. */
export function chosenGridLine(table: Table): GridLine | null {
  const [only, ...others] = chosenTraced(table);
  return only && others.length === 0 ? get(table.session.state.model, 'gridLine', only.id) : null;
}

/** Stands an upright plane on the grid line that is selected; a pick says from which side one looks at it. */
export function takeGridPlaneTool(table: Table): void {
  const line = chosenGridLine(table);
  if (!line) return;
  const ask = asking(table, 'section');
  table.hold(
    new PicksTool({
      id: 'plane-grid-line',
      steps: [`Section on ${line.name}: click on the side from which one looks at it`],
      ask: ask.request,
      submit: (_picks, values) => ask.submit(values),
      done: ([pick]) => {
        const [dx, dy] = [line.to[0] - line.from[0], line.to[1] - line.from[1]],
          [px, py] = [pick.plane[0] - line.from[0], pick.plane[1] - line.from[1]];
        // On its right-hand side its first end lies at the left.
        const right = dx * py - dy * px <= 0;
        put(table, 'section', right ? line.from : line.to, right ? line.to : line.from, ask.answer());
      },
    }),
  );
  table.setSelection([line.id]);
}
