import { group, setFields, type Traced } from '@calque/core/model';
import { count } from '@/project/trace-words';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';

/** Marks what is selected as done, so that it is out of the way; where all of it is done already, as not done. */
export function flipDone(table: Table): void {
  const chosen = chosenTraced(table);
  if (chosen.length === 0) {
    table.session.tell('Select what is done first: click it, or drag a box.');
    return;
  }
  const done = !chosen.every((e) => e.done);
  if (
    !table.session.do(
      group(chosen.map((e) => setFields<Traced>(e, { done }))),
      done ? 'Mark as done' : 'Mark as not done',
    )
  )
    return;
  if (done && !table.state.getState().showDone)
    table.session.tell(
      `${count(chosen.length, 'element')} done and out of the way: Shift U shows what is done.`,
    );
}
