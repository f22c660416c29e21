import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, gt, lt, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import {
  apply, groundStorey, modelOf, parseEntity, SETTINGS_ID, touchedIds, type Change, type Entity, type LogStep, type Refusal, type Settings,
} from '@calque/core/model';
import type { Database, Transaction } from './database.ts';
import { tell } from './notices.ts';
import { changes, entities, projects } from './schema.ts';

export interface ProjectFacts { id: string; name: string; seq: number; created: Date; updated: Date; deleted: Date | null }

export async function listProjects(database: Database, binned = false): Promise<ProjectFacts[]> {
  return database.select().from(projects).where(binned ? isNotNull(projects.deleted) : isNull(projects.deleted)).orderBy(desc(projects.updated));
}

export async function findProject(database: Database, id: string): Promise<ProjectFacts | null> {
  const [row] = await database.select().from(projects).where(eq(projects.id, id));
  return row ?? null;
}

/** A new project with its settings and ground floor, made by a first step of its log. */
export async function createProject(database: Database, settings: Pick<Settings, 'name' | 'units' | 'precision'>, id: string = randomUUID()): Promise<string> {
  const first: Change = {
    type: 'group',
    changes: [
      { type: 'add', entity: { type: 'settings', id: SETTINGS_ID, ...settings } },
      { type: 'add', entity: groundStorey('ground') },
    ],
  };
  await database.insert(projects).values({ id, name: settings.name });
  await submitSteps(database, id, 'server', [{ id: randomUUID(), label: 'New project', kind: 'do', of: null, change: first }]);
  return id;
}

/** Puts a project into the bin, or takes it out again. */
export async function setBinned(database: Database, id: string, binned: boolean): Promise<boolean> {
  const rows = await database.update(projects).set({ deleted: binned ? new Date() : null }).where(eq(projects.id, id)).returning({ id: projects.id });
  if (rows.length > 0) await tell(database, { projectId: id, what: 'project' });
  return rows.length > 0;
}

/** Removes a binned project for good, with the bytes that nothing else uses. */
export async function destroyProject(database: Database, id: string): Promise<boolean> {
  const rows = await database.delete(projects).where(and(eq(projects.id, id), isNotNull(projects.deleted))).returning({ id: projects.id });
  if (rows.length === 0) return false;
  await database.execute(sql`delete from blobs b where b.created < now() - interval '1 hour'
    and not exists (select 1 from files f where f.blob_id = b.id) and not exists (select 1 from files f where f.drawing_blob_id = b.id) and not exists (select 1 from sheets s where s.linework_blob_id = b.id)`);
  return true;
}

export async function loadEntities(database: Database | Transaction, projectId: string): Promise<Entity[]> {
  const rows = await database.select({ data: entities.data }).from(entities).where(eq(entities.projectId, projectId)).orderBy(asc(entities.ordinal));
  return rows.map((r) => r.data);
}

/** Pages of files that lie on the table of a project and are shown. */
export async function sheetsOnTable(database: Database, projectId: string): Promise<{ fileId: string; page: number }[]> {
  const rows = await database.select({ data: entities.data }).from(entities).where(and(eq(entities.projectId, projectId), eq(entities.type, 'underlay')));
  const shown = rows.flatMap(({ data }) => (data.type === 'underlay' && data.visible ? [{ fileId: data.fileId, page: data.page }] : []));
  return [...new Map(shown.map((s) => [`${s.fileId}:${s.page}`, s])).values()];
}

/** The steps after a sequence number (and before another), in order; with `last`, at most that many of the latest. */
export async function loadSteps(database: Database, projectId: string, after: number, { last, before }: { last?: number; before?: number } = {}): Promise<(LogStep & { clientId: string })[]> {
  const found = database.select({
    id: changes.id, seq: changes.seq, label: changes.label, kind: changes.kind, of: changes.of, change: changes.change, clientId: changes.clientId,
  }).from(changes).where(and(eq(changes.projectId, projectId), gt(changes.seq, after), ...(before === undefined ? [] : [lt(changes.seq, before)])));
  return last === undefined ? found.orderBy(asc(changes.seq)) : (await found.orderBy(desc(changes.seq)).limit(last)).reverse();
}

/** The project as it is now: its entities in the order in which they came, and the sequence that they stand at. */
export async function loadProject(database: Database, projectId: string): Promise<{ seq: number; entities: Entity[] } | null> {
  return database.transaction(async (tx) => {
    const [project] = await tx.select({ seq: projects.seq }).from(projects).where(and(eq(projects.id, projectId), isNull(projects.deleted)));
    return project ? { seq: project.seq, entities: await loadEntities(tx, projectId) } : null;
  }, { isolationLevel: 'repeatable read' });
}

/** As loadProject, but the entities as JSON text, put together by the database: nobody parses tens of thousands of them only to write them again. */
export async function loadProjectText(database: Database, projectId: string): Promise<{ seq: number; entities: string } | null> {
  return database.transaction(async (tx) => {
    const [project] = await tx.select({ seq: projects.seq }).from(projects).where(and(eq(projects.id, projectId), isNull(projects.deleted)));
    if (!project) return null;
    const [{ text }] = await tx.select({ text: sql<string>`coalesce(string_agg(${entities.data}::text, ',' order by ${entities.ordinal}), '')` }).from(entities).where(eq(entities.projectId, projectId));
    return { seq: project.seq, entities: `[${text}]` };
  }, { isolationLevel: 'repeatable read' });
}

export type NewStep = Omit<LogStep, 'seq'>;

export type Submitted =
  | { ok: true; seq: number }
  | { ok: false; code: 'no-project' }
  | { ok: false; code: 'refused'; stepId: string; refusal: Refusal; seq: number }
  | { ok: false; code: 'invalid'; stepId: string; message: string; seq: number };

/**
 * Takes steps in order, each whole or not at all: checks them against the entities as they are, writes
 * the log and the entities in one transaction. A step that is in the log already (sent again after a
 * lost answer) counts as done. Stops at the first that does not apply.
 */
export async function submitSteps(database: Database, projectId: string, clientId: string, steps: readonly NewStep[]): Promise<Submitted> {
  return database.transaction(async (tx) => {
    const [project] = await tx.select({ seq: projects.seq, deleted: projects.deleted }).from(projects).where(eq(projects.id, projectId)).for('update');
    if (!project || project.deleted) return { ok: false, code: 'no-project' };
    const known = steps.length === 0 ? [] : await tx.select({ id: changes.id }).from(changes)
      .where(and(eq(changes.projectId, projectId), inArray(changes.id, steps.map((s) => s.id))));
    const have = new Set(known.map((k) => k.id));
    let { seq } = project;
    const began = seq;
    let failure: Submitted | null = null;
    for (const step of steps) {
      if (have.has(step.id)) continue;
      const outcome = await takeStep(tx, projectId, clientId, step, seq + 1);
      if (outcome) {
        failure = { ...outcome, stepId: step.id, seq } as Submitted;
        break;
      }
      seq++;
    }
    if (seq !== began) await tell(tx, { projectId, what: 'changes', seq });
    return failure ?? { ok: true, seq };
  });
}

async function takeStep(tx: Transaction, projectId: string, clientId: string, step: NewStep, seq: number): Promise<{ ok: false; code: 'refused'; refusal: Refusal } | { ok: false; code: 'invalid'; message: string } | null> {
  const ids = [...new Set(touchedIds(step.change))];
  const rows = await tx.select({ data: entities.data }).from(entities).where(and(eq(entities.projectId, projectId), inArray(entities.id, ids)));
  const before = modelOf(rows.map((r) => r.data));
  const applied = apply(before, step.change);
  if (!applied.ok) return { ok: false, code: 'refused', refusal: applied.refusal };
  const gone: string[] = [], written: Entity[] = [];
  try {
    for (const id of ids) {
      const entity = applied.model.get(id);
      if (entity) written.push(parseEntity(entity));
      else gone.push(id);
    }
  } catch (error) {
    return { ok: false, code: 'invalid', message: error instanceof Error ? error.message : String(error) };
  }
  if (gone.length > 0) await tx.delete(entities).where(and(eq(entities.projectId, projectId), inArray(entities.id, gone)));
  for (let at = 0; at < written.length; at += 1000) {
    await tx.insert(entities).values(written.slice(at, at + 1000).map((data) => ({ projectId, id: data.id, type: data.type, data })))
      .onConflictDoUpdate({ target: [entities.projectId, entities.id], set: { data: sql`excluded.data`, type: sql`excluded.type` } });
  }
  await tx.insert(changes).values({ projectId, seq, id: step.id, clientId, label: step.label, kind: step.kind, of: step.of, change: step.change });
  const settings = written.find((e) => e.type === 'settings');
  await tx.update(projects).set({ seq, updated: new Date(), ...(settings ? { name: settings.name } : {}) }).where(eq(projects.id, projectId));
  return null;
}
