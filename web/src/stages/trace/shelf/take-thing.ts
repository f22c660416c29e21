import type { ShelfThing } from '@calque/core/model';
import { useOpeningFigures } from '@/kinds/wall/opening-figures';
import { takeFromShelf } from '@/project/shelf';
import type { Table } from '@/table/table';
import { takePlaceTool } from '../groups/groups';

/** Takes a thing of the shelf into the project and in hand: a group to be placed, a wall type or figures for what comes next. */
export function takeThing(table: Table, thing: ShelfThing): void {
  const { session } = table;
  if (thing.type === 'opening') {
    const { kind, width, sill, head } = thing;
    useOpeningFigures.getState().type(kind, { ...(width !== null && { width }), sill, head });
    session.tell(`The next ${kind}s are made as "${thing.name}".`);
    return;
  }
  const own = takeFromShelf(session, thing);
  if (!own) return;
  if (own.type === 'assembly') takePlaceTool(table, own.id);
  else {
    session.tell(`"${own.name}" is a wall type of this project now.`);
  }
}
