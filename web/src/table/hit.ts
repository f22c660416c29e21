import {
  boxesTouch,
  distanceToPiece,
  makeRegion,
  regionContains,
  type Box,
  type Point,
} from '@calque/core/geometry';
import {
  boxOf,
  isTraced,
  kindOf,
  looseOf,
  piecesOf,
  shownOf,
  type Loose,
  type Traced,
} from '@calque/core/model';
import type { Table } from './table';

/** How near to a line a click must be to mean it, CSS pixels. */
export const REACH_PIXELS = 7;

/** What is selected of the trace. */
export const chosenTraced = (table: Table): Traced[] =>
  [...table.state.getState().selection]
    .map((id) => table.session.state.model.get(id))
    .filter((e): e is Traced => !!e && isTraced(e));

/** What is selected as it shows now, to be shown and taken hold of. */
export function shownChosen(table: Table): Traced[] {
  const { model } = table.session.state;
  return chosenTraced(table).map((e) => shownOf(e, model));
}

/** The trace of the plane in hand, with what follows from it. */
export const traceHere = (table: Table) =>
  table.traces.of(table.session.state.model, table.state.getState().planeId);

/** What has been traced on the storey in hand and can be picked: what is hidden or locked cannot. */
export function tracedHere(table: Table): Traced[] {
  const { elements, locked } = traceHere(table);
  const all = [...elements.values()];
  return locked.size === 0 ? all : all.filter((e) => !e.layerId || !locked.has(e.layerId));
}

/** The box around all that shows of the trace; null for nothing. */
export const tracedBounds = (table: Table): Box | null => traceHere(table).index.bounds;

/** What can be picked of the trace with something in a box. */
export function tracedIn(table: Table, box: Box): Traced[] {
  const { elements, index, locked } = traceHere(table);
  return [...index.items.ownersIn(box)]
    .map((id) => elements.get(id))
    .filter((e): e is Traced => e !== undefined && !(e.layerId && locked.has(e.layerId)));
}

const holds = (rings: readonly (readonly Point[])[], at: Point) =>
  regionContains(makeRegion(rings, 'evenodd'), at[0], at[1]);

/** The traced element at a place: the nearest drawn line within reach (CSS pixels), else the text, the wall or the area in which the place lies. */
export function tracedAt(table: Table, at: Point, pixels = REACH_PIXELS): Traced | null {
  const reach = pixels / table.view.scale,
    box: Box = [at[0] - reach, at[1] - reach, at[0] + reach, at[1] + reach];
  let best: Traced | null = null,
    nearest = reach;
  for (const e of tracedIn(table, box)) {
    for (const piece of piecesOf(e)) {
      const d = distanceToPiece(piece, at);
      if (d < nearest) [best, nearest] = [e, d];
    }
  }
  if (best) return best;
  const { cut } = traceHere(table);
  // A text is meant before a wall, a wall before an area.
  const rank = (e: Loose) => (kindOf(e).frame(e) ? 0 : cut.bodies.has(e.id) ? 1 : 2);
  const holdsPlace = (e: Loose): boolean => {
    const body = cut.bodies.get(e.id);
    if (body && holds([body], at)) return true;
    const rings = kindOf(e).inside(e);
    return rings.length > 0 && boxesTouch(boxOf(e), box) && holds(rings, at);
  };
  const around = tracedHere(table).flatMap((owner) =>
    looseOf(owner)
      .filter(holdsPlace)
      .map((e) => ({ owner, rank: rank(e) })),
  );
  return around.sort((a, b) => a.rank - b.rank)[0]?.owner ?? null;
}
