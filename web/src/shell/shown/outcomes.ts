import { convertRegion } from '@calque/core/conversion';
import { makeRegion } from '@calque/core/geometry';
import { group, lookOf, ofType, setFields, type Change } from '@calque/core/model';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';
import { laidPlan } from './plan-sheet';

/** What a worker or a card does with the sheet when it has been asked; on the practice sheet it is soon done. */
const sheetOf = (table: Table) => ofType(table.session.state.model, 'underlay')[0];

/** All lines of the sheet as elements of one's own. */
export function convertPlan(table: Table): void {
  const u = sheetOf(table),
    linework = table.sheets.get(u.fileId, u.page)?.linework;
  if (!linework) return;
  const { elements } = convertRegion(linework, {
    region: makeRegion([cropRing(u)], 'nonzero'),
    switches: lookOf(u).switches,
    placement: u.placement,
    layering: 'kind',
    planeId: u.planeId,
    source: { underlayId: u.id, ends: 'snapped', thickness: 'typed' },
  });
  const added = elements.map((e, i): Change => ({ type: 'add', entity: { ...e, id: `converted-${i}` } }));
  table.session.do(group(added), 'Convert the plan');
  table.setSelection(elements.map((_, i) => `converted-${i}`));
}

/** A photo drawn anew, square and to scale. */
export function placeStraight(table: Table): void {
  const { fileId, placement, scaleState } = laidPlan();
  table.session.do(setFields(sheetOf(table), { fileId, placement, scaleState }), 'Straighten the photo');
}

/** The scale that the title block states. */
export function stateScale(table: Table): void {
  const { placement, scaleState } = laidPlan();
  table.session.do(setFields(sheetOf(table), { placement, scaleState }), 'Scale by 1:100');
}
