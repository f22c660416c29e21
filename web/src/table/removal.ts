import { removeElements } from '@calque/core/model';
import { chosenTraced } from './hit';
import type { Table } from './table';

/** Takes away what is selected; dimensions that rested on it keep their points. */
export function removeChosen(table: Table, verb = 'Delete'): void {
  const gone = chosenTraced(table);
  if (gone.length === 0) return;
  table.session.do(
    removeElements(table.session.state.model, gone),
    `${verb} ${gone.length === 1 ? 'an element' : `${gone.length} elements`}`,
  );
  table.setSelection([]);
}
