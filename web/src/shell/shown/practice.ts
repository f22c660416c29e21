import { planLines, type PlanRun } from '@calque/core/conversion';
import { makeRegion } from '@calque/core/geometry';
import { groundStorey, lookOf, modelOf, type Entity, type Model, type Underlay } from '@calque/core/model';
import type { Linework } from '@calque/core/linework';
import { buildSheetIndex, sheetSnapper } from '@calque/core/snapping';
import type { PendingStore } from '@/project/pending';
import { ProjectSession } from '@/project/session';
import type { FileInfo } from '@/project/wire';
import { cropRing } from '@/table/look-cache';
import { LineworkCache, type LoadedSheet } from '@/table/linework-cache';

/** A browser store that keeps nothing: what is shown is nobody's work. */
const KEPT_NOWHERE: PendingStore = {
  takeLeft: async () => [],
  add: async () => {},
  remove: async () => {},
  asides: async () => [],
  setAside: async () => {},
  forgetAside: async () => {},
};

export const practiceModel = (entities: readonly Entity[]): Model =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Shown', units: 'mm', precision: 0 },
    groundStorey('ground'),
    ...entities,
  ]);

/** A project that lives in this page alone: it is changed by the same steps as any other, and nothing of it is sent or kept. */
export function practiceSession(files: FileInfo[]): ProjectSession {
  let made = 0;
  const session = new ProjectSession('shown', KEPT_NOWHERE, 'shown', () => `shown-${++made}`);
  session.close();
  session.store.setState({ loaded: true, opening: null, files });
  return session;
}

/** Sheets that are there already, by their file. */
export class GivenSheets extends LineworkCache {
  private readonly given: ReadonlyMap<string, LoadedSheet>;

  constructor(sheets: Readonly<Record<string, Linework>>) {
    super('shown');
    this.given = new Map(
      Object.entries(sheets).map(([fileId, linework]) => [
        fileId,
        { linework, snapper: sheetSnapper(linework, buildSheetIndex(linework)), whole: true },
      ]),
    );
  }

  override get(fileId: string): LoadedSheet | null {
    return this.given.get(fileId) ?? null;
  }

  override readOn(): void {}

  override runsHere(u: Underlay): readonly PlanRun[] | null {
    const sheet = this.get(u.fileId);
    return (
      sheet &&
      planLines(sheet.linework, makeRegion([cropRing(u)], 'nonzero'), lookOf(u).switches, u.placement)
    );
  }
}
