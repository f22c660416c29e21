import { ofType, type Model, type SheetName } from '@calque/core/model';
import type { SheetInfo } from './wire';

export interface NameOfSheet {
  number: string;
  title: string;
}

/** What a person corrected of a page's name. */
export const correctedName = (model: Model, s: Pick<SheetInfo, 'fileId' | 'page'>): SheetName | undefined =>
  ofType(model, 'sheetName').find((n) => n.fileId === s.fileId && n.page === s.page);

/** Number and title of a page: as a person corrected them, else as read from its title block. */
export const nameOfSheet = (model: Model, s: Pick<SheetInfo, 'fileId' | 'page' | 'title'>): NameOfSheet =>
  correctedName(model, s) ?? s.title ?? { number: '', title: '' };
