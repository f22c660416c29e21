import { get, openAssembly, type Source, type Traced } from '@calque/core/model';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';
import { useTraceState } from '@/drawing/state';

/** Distributes over the kinds, so that each keeps its own fields. */
type Own<T> = T extends Traced ? Omit<T, 'id' | 'planeId' | 'source' | 'layerId'> : never;
/** What is drawn, without what every element has. */
export type Shape = Own<Traced>;

/** How the points of an element were found. */
export interface Found {
  snapped: boolean;
  typed: boolean;
  ink: boolean;
}
export const foundBy = (pick: Pick): Found => ({
  snapped: pick.found !== null,
  typed: false,
  ink: pick.found?.stray !== undefined,
});
export const TYPED: Found = { snapped: false, typed: true, ink: false };

export function sourceOf(
  table: Table,
  points: readonly Found[],
  thickness: Source['thickness'] = 'typed',
): Source {
  const snapped = points.filter((p) => p.snapped).length;
  const ends = points.some((p) => p.typed)
    ? 'typed'
    : snapped === points.length
      ? 'snapped'
      : snapped > 0
        ? 'mixed'
        : 'free';
  return {
    underlayId: table.state.getState().underlayId,
    ends,
    thickness,
    ...(points.some((p) => p.ink) && { ink: true }),
  };
}

/** The layer that new elements come onto; null where none is current, or it is there no more. */
export function currentLayer(table: Table): string | null {
  const layer = get(table.session.state.model, 'layer', useTraceState.getState().layerId);
  return layer?.id ?? null;
}

/** The group that is being edited on the storey in hand: what is added meanwhile becomes part of it. */
export function partHere(table: Table): string | null {
  const open = openAssembly(table.session.state.model);
  return open?.open?.placed.planeId === table.state.getState().planeId ? open.id : null;
}

/** A shape as an element of the storey in hand, on the current layer. */
export function elementOf(table: Table, shape: Shape, source: Source): Traced {
  const layerId = currentLayer(table),
    { planeId } = table.state.getState(),
    part = partHere(table);
  return {
    ...shape,
    id: crypto.randomUUID(),
    planeId,
    source,
    ...(layerId && { layerId }),
    ...(part && { part }),
  } as Traced;
}
