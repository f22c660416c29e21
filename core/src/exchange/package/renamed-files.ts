import type { Change, Entity, Fields, FilePage, PaperView } from '../../model/index.ts';

/** A change with files by the ids that they have now, wherever entities name them. */
export function withFileIds(change: Change, ids: ReadonlyMap<string, string>): Change {
  switch (change.type) {
    case 'group':
      return { ...change, changes: change.changes.map((c) => withFileIds(c, ids)) };
    case 'set':
      return { ...change, before: renamed(change.before, ids), after: renamed(change.after, ids) };
    default:
      return { ...change, entity: entityWithFileIds(change.entity, ids) };
  }
}

export const entityWithFileIds = (entity: Entity, ids: ReadonlyMap<string, string>): Entity =>
  renamed(entity as unknown as Fields, ids) as unknown as Entity;

function renamed(fields: Fields, ids: ReadonlyMap<string, string>): Fields {
  const named =
    typeof fields.fileId === 'string' && ids.has(fields.fileId)
      ? { ...fields, fileId: ids.get(fields.fileId) }
      : fields;
  const former = named.former as FilePage | null | undefined,
    views = named.views as PaperView[] | undefined;
  return {
    ...named,
    ...(former && { former: pageOf(former, ids) }),
    ...(views && { views: views.map((v) => (v.sheet ? { ...v, sheet: pageOf(v.sheet, ids) } : v)) }),
  };
}

const pageOf = (of: FilePage, ids: ReadonlyMap<string, string>): FilePage => ({
  ...of,
  fileId: ids.get(of.fileId) ?? of.fileId,
});
