import { lookOf, setFields, type SheetLook, type Underlay } from '@calque/core/model';
import type { Linework, Switches } from '@calque/core/linework';
import { useProject, useSession } from '@/project/context';
import type { FileInfo, SheetInfo } from '@/project/wire';
import { useTable, useTableState } from '@/table/context';

/** The underlay at hand with its file, its page and, once it has come, its linework. */
export interface Desk {
  underlay: Underlay;
  look: SheetLook;
  file: FileInfo | null;
  sheet: SheetInfo | null;
  linework: Linework | null;
  setLook(fields: Partial<SheetLook>, label: string): void;
  setSwitches(switches: Switches, label: string): void;
}

export function useDesk(): Desk | null {
  const session = useSession();
  const table = useTable();
  const id = useTableState((s) => s.underlayId);
  useTableState((s) => s.sheetsLoaded);
  const entity = useProject((s) => (id ? s.model.get(id) : undefined));
  const files = useProject((s) => s.files);
  if (entity?.type !== 'underlay') return null;
  const underlay = entity;
  const look = lookOf(underlay);
  const file = files.find((f) => f.id === underlay.fileId) ?? null;
  const setLook = (fields: Partial<SheetLook>, label: string) =>
    void session.do(setFields(underlay, { look: { ...look, ...fields } }), `${label}: ${underlay.name}`);
  return {
    underlay,
    look,
    file,
    sheet: file?.sheets.find((s) => s.page === underlay.page) ?? null,
    linework: table.sheets.get(underlay.fileId, underlay.page)?.linework ?? null,
    setLook,
    setSwitches: (s, label) =>
      setLook(
        {
          switches: {
            layers: { ...s.layers },
            kinds: [...s.kinds],
            pens: [...s.pens],
            authors: [...s.authors],
            markupKinds: [...s.markupKinds],
          },
        },
        label,
      ),
  };
}

/** The list without a value, or with it. */
export const toggled = <T>(list: readonly T[], value: T): T[] =>
  list.includes(value) ? list.filter((v) => v !== value) : [...list, value];
