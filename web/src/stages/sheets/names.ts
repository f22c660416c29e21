import { useCallback } from 'react';
import { setFields } from '@calque/core/model';
import { useProject } from '@/project/context';
import type { ProjectSession } from '@/project/session';
import { correctedName, nameOfSheet, type NameOfSheet } from '@/project/sheet-names';
import type { SheetInfo } from '@/project/wire';

export function useSheetNames(): (s: SheetInfo) => NameOfSheet {
  const model = useProject((s) => s.model);
  return useCallback((s: SheetInfo) => nameOfSheet(model, s), [model]);
}

/** Keeps a corrected name. */
export function setSheetName(session: ProjectSession, s: SheetInfo, name: NameOfSheet): void {
  const { model } = session.state;
  const known = correctedName(model, s);
  const label = 'Name a page';
  if (known) session.do(setFields(known, { number: name.number, title: name.title }), label);
  else
    session.do(
      {
        type: 'add',
        entity: {
          type: 'sheetName',
          id: crypto.randomUUID(),
          fileId: s.fileId,
          page: s.page,
          number: name.number,
          title: name.title,
        },
      },
      label,
    );
}
