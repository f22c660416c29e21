import { get, lookOf, type Underlay } from '@calque/core/model';
import { rasterScale } from '@calque/core/ink';
import { lineworkUrl } from '@/project/addresses';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';
import type { ToPropose } from '@/workers/propose-protocol';
import { pictureOf, sheetKey, usePrinted } from './printed';

/** What tells how a sheet lies, is cropped and switched: where that differs, what was concluded from it holds no more. */
export const laidAs = (u: Underlay): string =>
  JSON.stringify([u.placement, cropRing(u), lookOf(u).switches, u.planeId, u.scaleState]);

/** The sheet in hand, as one that can be measured; else why it cannot. */
export function sheetToScale(table: Table): { sheet: Underlay } | { why: string } {
  const u = get(table.session.state.model, 'underlay', table.state.getState().underlayId);
  if (!u) return { why: 'Choose a sheet in the stack first.' };
  // It may have stayed in hand from another storey.
  if (u.planeId !== table.state.getState().planeId)
    return { why: `${u.name} lies on another storey or plane: choose a sheet of this one in the stack.` };
  if (u.scaleState === 'paper')
    return {
      why: `${u.name} is not to scale yet: bring it to scale first, then what it shows can be measured.`,
    };
  return { sheet: u };
}

/** A sheet as a worker looks at it: of a scan with what its ink tells, or its picture where that has not been read. */
export async function lookedAt(table: Table, u: Underlay): Promise<Omit<ToPropose, 'told'>> {
  const file = table.session.state.files.find((f) => f.id === u.fileId),
    content = file?.sheets.find((s) => s.page === u.page)?.content,
    isScan = content === 'scan',
    known = isScan ? (usePrinted.getState().pictures[sheetKey(u)] ?? null) : null;
  const linework = isScan && !known ? table.sheets.get(u.fileId, u.page)?.linework : undefined,
    scale = linework ? rasterScale(linework) : null,
    picture = scale === null ? null : await pictureOf(table, u, scale);
  return {
    url: new URL(lineworkUrl(table.session.projectId, u.fileId, u.page), location.href).href,
    ring: cropRing(u),
    switches: lookOf(u).switches,
    placement: u.placement,
    ink: known,
    picture: picture && { ...picture, scale: scale! },
  };
}
