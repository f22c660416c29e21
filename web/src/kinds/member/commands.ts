import {
  get,
  group,
  isOnePoint,
  ofType,
  pairOf,
  piecesOf,
  endsSwapped,
  setFields,
  USUAL_STOREY_HEIGHT,
  type Change,
  type GridLine,
  type Member,
  type Pair,
} from '@calque/core/model';
import { meetingOf, type Point } from '@calque/core/geometry';
import { markingChanges } from '@calque/core/framing';
import { elementOf, sourceOf, TYPED } from '@/drawing/drawn';
import { putInPlace } from '@/drawing/made-of';
import { count } from '@/project/trace-words';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import { memberAlong, memberAt } from './next-member';

/** Lines and straight stretches of paths that are selected become members; what they were goes. */
export function makeMembers(table: Table): void {
  const { model } = table.session.state,
    found = chosenTraced(table).flatMap((e) =>
      e.type !== 'line' && e.type !== 'path'
        ? []
        : piecesOf(e).flatMap((p) =>
            p.kind === 'segment' && !isOnePoint(p.from as Pair, p.to as Pair)
              ? [{ e, shape: memberAlong(model, e.planeId, pairOf(p.from), pairOf(p.to)) }]
              : [],
          ),
    );
  if (found.length === 0) {
    table.session.tell('Select lines or straight paths: members are made along these.', true);
    return;
  }
  putInPlace(table, found, `Make ${count(found.length, 'member')}`);
}

/** A column stands already where one is so near, millimetres. */
const THERE = 10;

/** A member stands at each crossing of the grid lines of the plan where none does yet. */
export function membersOnGrid(table: Table): void {
  const { model } = table.session.state,
    { planeId } = table.state.getState(),
    storey = get(model, 'storey', planeId),
    lines = ofType(model, 'gridLine').filter((g) => g.planeId === planeId),
    there = ofType(model, 'member').filter((m) => m.planeId === planeId && isOnePoint(m.from, m.to));
  const places: Pair[] = [];
  lines.forEach((a, i) => {
    for (const b of lines.slice(i + 1)) {
      const at = crossing(a, b);
      const taken = (p: readonly [number, number]) =>
        at !== null && Math.hypot(p[0] - at[0], p[1] - at[1]) < THERE;
      if (at && !places.some(taken) && !there.some((m) => taken(m.from))) places.push(at);
    }
  });
  if (places.length === 0) {
    table.session.tell(
      lines.length < 2
        ? 'Draw grid lines first: a member stands at each of their crossings.'
        : 'At every crossing of the grid stands one already.',
      true,
    );
    return;
  }
  const members = places.map((at) =>
    elementOf(table, memberAt(at, storey?.height ?? USUAL_STOREY_HEIGHT), sourceOf(table, [TYPED])),
  );
  const done = table.session.do(
    group(members.map((entity): Change => ({ type: 'add', entity }))),
    `Put ${count(members.length, 'member')} at the grid`,
  );
  if (done) table.setSelection(members.map((m) => m.id));
}

/** Where two grid lines cross, on both of them. */
function crossing(a: GridLine, b: GridLine): Pair | null {
  const way = ({ from, to }: GridLine): Point => [to[0] - from[0], to[1] - from[1]],
    at = meetingOf(a.from, way(a), b.from, way(b));
  return at && [a, b].every((g) => isWithin(g, at)) ? pairOf(at) : null;
}
function isWithin({ from, to }: GridLine, p: readonly [number, number]): boolean {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]],
    t = ((p[0] - from[0]) * dx + (p[1] - from[1]) * dy) / (dx * dx + dy * dy);
  return t > -1e-9 && t < 1 + 1e-9;
}

/** Each member gets its mark, equal ones for equal pieces; what they are called already stays. */
export function markMembers(table: Table): void {
  const { model } = table.session.state,
    changes = markingChanges(model);
  if (changes.length === 0) {
    table.session.tell(
      ofType(model, 'member').length === 0
        ? 'Draw members first: equal pieces get equal marks.'
        : 'All members have their marks already.',
    );
    return;
  }
  table.session.do(group(changes), `Mark ${count(changes.length, 'member')}`);
}

/** Start and end of the members selected are changed for one another; they stay where they stand. */
export function swapEnds(table: Table): void {
  const members = chosenTraced(table).filter((e): e is Member => e.type === 'member');
  if (members.length === 0) {
    table.session.tell('Select members first: their start and end are changed for one another.', true);
    return;
  }
  table.session.do(group(members.map((m) => setFields(m, endsSwapped(m)))), 'Swap the ends of members');
}
