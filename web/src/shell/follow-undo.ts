import { meanScale } from '@calque/core/geometry';
import { get, ofType, type Underlay } from '@calque/core/model';
import { boxOfUnderlay } from '@/project/views';
import type { Table } from '@/table/table';

/** A sheet whose size changes by more than this share is followed by the view, as it is when it is scaled. */
const OTHER_SIZE = 0.02;

/** When a person undoes or redoes what laid a sheet, the view follows it: it stays in sight. Gives what ends that. */
export function followUndo(table: Table): () => void {
  return table.session.store.subscribe((now, before) => {
    // Own steps alone: what others undo moves nobody's view.
    if (
      now.history === before.history ||
      now.history.undone.length === before.history.undone.length ||
      now.pendingCount <= before.pendingCount
    )
      return;
    const moved = ofType(now.model, 'underlay').filter((u) => {
      const was = get(before.model, 'underlay', u.id);
      return was && u.placement.some((v, i) => v !== was.placement[i]);
    });
    const current = moved.find((u) => u.id === table.state.getState().underlayId) ?? moved[0];
    const was = current && get(before.model, 'underlay', current.id);
    if (
      current &&
      was &&
      current.planeId === table.state.getState().planeId &&
      (otherSize(was, current) || !table.sees(boxOfUnderlay(current)))
    )
      table.show(boxOfUnderlay(current));
  });
}

const otherSize = (a: Underlay, b: Underlay) =>
  Math.abs(meanScale(b.placement) / meanScale(a.placement) - 1) > OTHER_SIZE;
