import { carryAlong } from '@calque/core/calibration';
import { applyTransform, meanScale, type Transform } from '@calque/core/geometry';
import { get, group, isTraced, setFields, storedTransform, type Change, type Traced, type Underlay } from '@calque/core/model';
import type { Table } from '@/table/table';
import { boxOfUnderlay } from '@/project/views';
import { useCalibrateState } from './state';

/** The current underlay when it may be changed; otherwise says why not. */
export function currentUnderlay(table: Table): Underlay | null {
  const u = get(table.session.state.model, 'underlay', table.state.getState().underlayId);
  if (!u) table.session.tell('Choose a sheet in the stack first.', true);
  else if (u.locked) table.session.tell(`${u.name} is locked. Unlock it in the stack to change where it lies.`, true);
  return u && !u.locked ? u : null;
}

/** Elements that were traced on this sheet. */
export const tracedOn = (table: Table, underlayId: string): Traced[] =>
  [...table.session.state.model.values()].filter((e): e is Traced => isTraced(e) && e.source.underlayId === underlayId);

/** Gives an underlay a new placement, with what was traced on it if the person wants that, and follows it with the view. */
export function place(table: Table, u: Underlay, placement: Transform, more: Partial<Pick<Underlay, 'scaleState' | 'calibration'>>, label: string): void {
  const changes: (Change | null)[] = [setFields(u, { placement: storedTransform(placement), ...more })];
  const carried = useCalibrateState.getState().carry ? tracedOn(table, u.id) : [];
  if (carried.length > 0) {
    const along = carryAlong(u.placement, placement);
    const k = meanScale(along);
    for (const e of carried) {
      const ends = { from: applyTransform(along, e.from), to: applyTransform(along, e.to) };
      // A thickness that was measured on the sheet was as wrong as the sheet; a typed one was right.
      changes.push(e.type === 'wall' && e.source.thickness === 'measured' ? setFields(e, { ...ends, thickness: e.thickness * k }) : setFields<Traced>(e, ends));
    }
  }
  const change = group(changes);
  if (!change || !table.session.do(change, label)) return;
  const after = get(table.session.state.model, 'underlay', u.id);
  if (after) table.show(boxOfUnderlay(after));
}
