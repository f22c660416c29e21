import { useCallback } from 'react';
import { ofType, setFields, type Model, type SheetName } from '@calque/core/model';
import { useProject } from '@/project/context';
import type { ProjectSession } from '@/project/session';
import type { SheetInfo } from '@/project/wire';

export interface NameOfSheet {
  number: string;
  title: string;
}

const corrected = (model: Model, s: Pick<SheetInfo, 'fileId' | 'page'>): SheetName | undefined =>
  ofType(model, 'sheetName').find((n) => n.fileId === s.fileId && n.page === s.page);

/** Number and title of a page: as a person corrected them, else as read from its title block. */
export const nameOfSheet = (model: Model, s: Pick<SheetInfo, 'fileId' | 'page' | 'title'>): NameOfSheet =>
  corrected(model, s) ?? s.title ?? { number: '', title: '' };

export function useSheetNames(): (s: SheetInfo) => NameOfSheet {
  const model = useProject((s) => s.model);
  return useCallback((s: SheetInfo) => nameOfSheet(model, s), [model]);
}

/** Keeps a corrected name. */
export function setSheetName(session: ProjectSession, s: SheetInfo, name: NameOfSheet): void {
  const { model } = session.state;
  const known = corrected(model, s);
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
