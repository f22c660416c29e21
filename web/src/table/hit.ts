import { distanceToSegment, makeRegion, regionContains, type Point } from '@calque/core/geometry';
import { isTraced, type Traced } from '@calque/core/model';
import type { Table } from './table';

/** How near to a line a click must be to mean it, CSS pixels. */
export const REACH_PIXELS = 7;

/** What is selected of the trace. */
export const chosenTraced = (table: Table): Traced[] => [...table.state.getState().selection].map((id) => table.session.state.model.get(id)).filter((e): e is Traced => !!e && isTraced(e));

/** What has been traced on the storey in hand. */
export function tracedHere(table: Table): Traced[] {
  const { walls, lines } = table.traces.of(table.session.state.model, table.state.getState().storeyId);
  return [...walls, ...lines];
}

/** The traced element at a place: the nearest drawn line within reach, else the wall whose body lies there. */
export function tracedAt(table: Table, at: Point): Traced | null {
  const { cut } = table.traces.of(table.session.state.model, table.state.getState().storeyId);
  const members = tracedHere(table);
  let best: Traced | null = null, nearest = REACH_PIXELS / table.view.scale;
  for (const e of members) {
    const d = distanceToSegment(at[0], at[1], e.from[0], e.from[1], e.to[0], e.to[1]);
    if (d < nearest) [best, nearest] = [e, d];
  }
  if (best) return best;
  for (const [id, body] of cut.bodies) if (regionContains(makeRegion([body], 'nonzero'), at[0], at[1])) return members.find((e) => e.id === id) ?? null;
  return null;
}
