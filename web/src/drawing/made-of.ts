import { group, removeElements, type Change, type Traced } from '@calque/core/model';
import type { Table } from '@/table/table';
import type { Shape } from './drawn';

/** Puts elements in the place of others, on their planes and layers and of their sheets, and selects them. */
export function putInPlace(
  table: Table,
  found: readonly { e: Traced; shape: Shape }[],
  label: string,
): boolean {
  const { model } = table.session.state,
    made = found.map(({ e, shape }) => ({
      ...shape,
      id: crypto.randomUUID(),
      planeId: e.planeId,
      source: e.source,
      ...(e.layerId && { layerId: e.layerId }),
      ...(e.part && { part: e.part }),
    })) as Traced[],
    gone = [...new Set(found.map(({ e }) => e))],
    done = table.session.do(
      group([removeElements(model, gone), ...made.map((entity): Change => ({ type: 'add', entity }))]),
      label,
    );
  if (done) table.setSelection(made.map((m) => m.id));
  return done;
}
