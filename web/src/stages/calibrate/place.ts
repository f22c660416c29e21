import { carryAlong } from '@calque/core/calibration';
import { applyTransform, meanScale, type Transform } from '@calque/core/geometry';
import {
  get,
  group,
  isTraced,
  movedBy,
  replaced,
  setFields,
  storedTransform,
  type Change,
  type Traced,
  type Underlay,
} from '@calque/core/model';
import type { Table } from '@/table/table';
import { boxOfUnderlay } from '@/project/views';
import { useCalibrateState } from './state';

/** The current underlay when it may be changed; otherwise says why not. */
export function currentUnderlay(table: Table): Underlay | null {
  const u = get(table.session.state.model, 'underlay', table.state.getState().underlayId);
  if (!u) table.session.tell('Choose a sheet in the stack first.', true);
  else if (u.locked)
    table.session.tell(`${u.name} is locked. Unlock it in the stack to change where it lies.`, true);
  return u && !u.locked ? u : null;
}

/** The middle of what is laid, on the plane. */
export const middleOf = (u: Underlay) =>
  applyTransform(u.placement, [(u.crop[0] + u.crop[2]) / 2, (u.crop[1] + u.crop[3]) / 2]);

/** Elements that were traced on this sheet. */
export const tracedOn = (table: Table, underlayId: string): Traced[] =>
  [...table.session.state.model.values()].filter(
    (e): e is Traced => isTraced(e) && e.source.underlayId === underlayId,
  );

/** What becomes of the elements traced on an underlay when it is laid anew: nothing, unless the person wants them along. */
export function carriedChanges(table: Table, u: Underlay, placement: Transform): (Change | null)[] {
  if (!useCalibrateState.getState().carry) return [];
  const along = carryAlong(u.placement, placement);
  const k = meanScale(along);
  return tracedOn(table, u.id).map((e) => {
    const moved = movedBy(e, along);
    // A thickness that was measured on the sheet was as wrong as the sheet; a typed one was right.
    return replaced(
      e,
      moved.type === 'wall' && moved.source.thickness === 'measured'
        ? { ...moved, thickness: moved.thickness * k }
        : moved,
    );
  });
}

/** Gives an underlay a new placement, with what was traced on it if the person wants that, and follows it with the view. */
export function place(table: Table, u: Underlay, placement: Transform, label: string, follow = true): void {
  const change = group([
    setFields(u, { placement: storedTransform(placement) }),
    ...carriedChanges(table, u, placement),
  ]);
  if (change && table.session.do(change, label) && follow) showPlaced(table, u.id);
}

/** The view follows what has been laid anew. */
export function showPlaced(table: Table, underlayId: string): void {
  const after = get(table.session.state.model, 'underlay', underlayId);
  if (after) table.show(boxOfUnderlay(after));
}
