import { applyTransform, invertTransform } from '@calque/core/geometry';
import { get } from '@calque/core/model';
import type { Table } from '@/table/table';

/** Reads the lines of the current scan; once read, shows them or hides them. */
export function readInk(table: Table): void {
  const { model, files } = table.session.state;
  const u = get(model, 'underlay', table.state.getState().underlayId);
  const file = files.find((f) => f.id === u?.fileId),
    sheet = file?.sheets.find((s) => s.page === u?.page);
  if (!u || !file || !sheet) return;
  const ink = table.inks.of(u);
  if (ink?.state === 'read') table.inks.show(u, !ink.shown);
  else if (ink?.state !== 'reading') void table.inks.read(file, sheet);
}

/** Fits a line, a corner or an arc to the ink of the current scan under the cursor; picks find it from then on. */
export async function fitInk(table: Table): Promise<void> {
  const { model, files } = table.session.state,
    { pointer, underlayId } = table.state.getState();
  const u = get(model, 'underlay', underlayId),
    file = files.find((f) => f.id === u?.fileId),
    sheet = file?.sheets.find((s) => s.page === u?.page);
  if (!u || !file || !sheet || !pointer || !table.lastPick) return;
  if (sheet.content === 'vector') {
    table.session.tell(`${u.name} has lines of its own: picks find those.`);
    return;
  }
  try {
    const fits = await table.inks.fit(
      file,
      sheet,
      applyTransform(invertTransform(u.placement), table.lastPick.bare),
    );
    if (fits === 0) table.session.tell('There is no line or arc in the ink under the cursor.');
    table.searchAgain();
  } catch (error) {
    table.session.tell(error instanceof Error ? error.message : String(error), true);
  }
}
