import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, gt, lt, isNotNull, isNull, sql } from 'drizzle-orm';
import { FORM } from '@calque/core/formats';
import {
  groundStorey,
  SETTINGS_ID,
  soundChange,
  EMPTY_MODEL,
  type Entity,
  type LogStep,
  type Settings,
} from '@calque/core/model';
import type { Database, Transaction } from './database.ts';
import { tell } from './notices.ts';
import { changes, entities, files, projectPictures, projects, sheets } from './schema.ts';
import { takeSteps } from './steps.ts';

export interface ProjectFacts {
  id: string;
  /** The form in which it is stored. */
  form: number;
  name: string;
  seq: number;
  created: Date;
  updated: Date;
  deleted: Date | null;
}

export async function listProjects(database: Database, binned = false): Promise<ProjectFacts[]> {
  return database
    .select()
    .from(projects)
    .where(binned ? isNotNull(projects.deleted) : isNull(projects.deleted))
    .orderBy(desc(projects.updated));
}

export async function findProject(database: Database, id: string): Promise<ProjectFacts | null> {
  const [row] = await database.select().from(projects).where(eq(projects.id, id));
  return row ?? null;
}

/** Those of the projects that there are. */
export async function findProjects(database: Database, ids: readonly string[]): Promise<ProjectFacts[]> {
  return database
    .select()
    .from(projects)
    .where(sql`${projects.id} = any(${sql.param(ids)}::uuid[])`);
}

/** A new project with its settings and ground floor, made by a first step of its log; all of it or nothing. */
export async function createProject(
  database: Database,
  settings: Pick<Settings, 'name' | 'units' | 'precision'>,
  id: string = randomUUID(),
): Promise<string> {
  const first = soundChange(EMPTY_MODEL, {
    type: 'group',
    changes: [
      { type: 'add', entity: { type: 'settings', id: SETTINGS_ID, ...settings } },
      { type: 'add', entity: groundStorey('ground') },
    ],
  });
  await database.transaction(async (tx) => {
    await tx.insert(projects).values({ id, name: '', form: FORM });
    const taken = await takeSteps(tx, { id, seq: 0 }, 'server', [
      { id: randomUUID(), label: 'New project', kind: 'do', of: null, change: first },
    ]);
    if (taken.failure) throw new Error(`A new project was refused: ${JSON.stringify(taken.failure)}.`);
  });
  return id;
}

/** Gives a project another name, as a step of its log. */
export async function renameProject(database: Database, id: string, name: string): Promise<void> {
  await database.transaction(async (tx) => {
    const [row] = await tx.select().from(projects).where(eq(projects.id, id)).for('update');
    if (!row || row.name === name) return;
    const taken = await takeSteps(tx, { id, seq: row.seq }, 'server', [
      {
        id: randomUUID(),
        label: 'Rename the project',
        kind: 'do',
        of: null,
        change: { type: 'set', id: SETTINGS_ID, before: { name: row.name }, after: { name } },
      },
    ]);
    if (taken.failure) throw new Error(`A name was refused: ${JSON.stringify(taken.failure)}.`);
  });
}

/** What a list of projects tells of one. */
export interface ProjectTally {
  sheets: number;
  /** Of these, those that were calibrated and not taken against what the sheet says itself. */
  calibrated: number;
  /** All other entities, by their type. */
  types: Record<string, number>;
}

export async function projectTally(database: Database, id: string): Promise<ProjectTally> {
  const { rows } = await database.execute<{ type: string; n: string; calibrated: string }>(
    sql`select type, count(*) as n, count(*) filter (where type = 'underlay' and data->>'scaleState' = 'calibrated'
        and coalesce(data->'calibration'->'against', 'null'::jsonb) = 'null'::jsonb) as calibrated
      from entities where project_id = ${id} group by type`,
  );
  const { underlay, ...types } = Object.fromEntries(rows.map((r) => [r.type, Number(r.n)]));
  return {
    sheets: underlay ?? 0,
    calibrated: Number(rows.find((r) => r.type === 'underlay')?.calibrated ?? 0),
    types,
  };
}

/** Puts a project into the bin, or takes it out again. */
export async function setBinned(database: Database, id: string, binned: boolean): Promise<boolean> {
  const rows = await database
    .update(projects)
    .set({ deleted: binned ? new Date() : null })
    .where(eq(projects.id, id))
    .returning({ id: projects.id });
  if (rows.length > 0) await tell(database, { projectId: id, what: 'project' });
  return rows.length > 0;
}

/** Removes a binned project for good; the bytes that nothing else uses are collected later. */
export async function destroyProject(database: Database, id: string): Promise<boolean> {
  return database.transaction(async (tx) => {
    const rows = await tx
      .delete(projects)
      .where(and(eq(projects.id, id), isNotNull(projects.deleted)))
      .returning({ id: projects.id });
    if (rows.length > 0) await tx.delete(entities).where(eq(entities.projectId, id));
    return rows.length > 0;
  });
}

export async function loadEntities(database: Database | Transaction, projectId: string): Promise<Entity[]> {
  const rows = await database
    .select({ data: entities.data })
    .from(entities)
    .where(eq(entities.projectId, projectId))
    .orderBy(asc(entities.ordinal));
  return rows.map((r) => r.data);
}

/** Pages of files that lie on the table of a project and are shown; those that have been read, so that there is something to fetch. */
export async function sheetsOnTable(
  database: Database,
  projectId: string,
): Promise<{ fileId: string; page: number }[]> {
  const rows = await database
    .select({ data: entities.data })
    .from(entities)
    .where(and(eq(entities.projectId, projectId), eq(entities.type, 'underlay')))
    .orderBy(asc(entities.ordinal));
  const shown = rows.flatMap(({ data }) =>
    data.type === 'underlay' && data.visible ? [{ fileId: data.fileId, page: data.page }] : [],
  );
  const read = new Set(
    (
      await database
        .select({ fileId: sheets.fileId, page: sheets.page })
        .from(sheets)
        .innerJoin(files, eq(files.id, sheets.fileId))
        .where(and(eq(files.projectId, projectId), isNotNull(sheets.lineworkBlobId), sheets.whole))
    ).map((s) => `${s.fileId}:${s.page}`),
  );
  return [...new Map(shown.map((s) => [`${s.fileId}:${s.page}`, s])).values()].filter((s) =>
    read.has(`${s.fileId}:${s.page}`),
  );
}

/** The steps after a sequence number (and before another), in order; with `last`, at most that many of the latest. */
export async function loadSteps(
  database: Database,
  projectId: string,
  after: number,
  { last, before }: { last?: number; before?: number } = {},
): Promise<(LogStep & { clientId: string })[]> {
  const found = database
    .select({
      id: changes.id,
      seq: changes.seq,
      label: changes.label,
      kind: changes.kind,
      of: changes.of,
      change: changes.change,
      clientId: changes.clientId,
    })
    .from(changes)
    .where(
      and(
        eq(changes.projectId, projectId),
        gt(changes.seq, after),
        ...(before === undefined ? [] : [lt(changes.seq, before)]),
      ),
    );
  return last === undefined
    ? found.orderBy(asc(changes.seq))
    : (await found.orderBy(desc(changes.seq)).limit(last)).reverse();
}

/** The project as it is now: its entities in the order in which they came, and the sequence that they stand at. */
export async function loadProject(
  database: Database,
  projectId: string,
): Promise<{ seq: number; entities: Entity[] } | null> {
  return database.transaction(
    async (tx) => {
      const [project] = await tx
        .select({ seq: projects.seq })
        .from(projects)
        .where(and(eq(projects.id, projectId), isNull(projects.deleted)));
      return project ? { seq: project.seq, entities: await loadEntities(tx, projectId) } : null;
    },
    { isolationLevel: 'repeatable read' },
  );
}

/** As loadProject, but the entities as JSON text, put together by the database: nobody parses tens of thousands of them only to write them again. */
export async function loadProjectText(
  database: Database,
  projectId: string,
): Promise<{ seq: number; entities: string } | null> {
  return database.transaction(
    async (tx) => {
      const [project] = await tx
        .select({ seq: projects.seq })
        .from(projects)
        .where(and(eq(projects.id, projectId), isNull(projects.deleted)));
      if (!project) return null;
      const [{ text }] = await tx
        .select({
          text: sql<string>`coalesce(string_agg(${entities.data}::text, ',' order by ${entities.ordinal}), '')`,
        })
        .from(entities)
        .where(eq(entities.projectId, projectId));
      return { seq: project.seq, entities: `[${text}]` };
    },
    { isolationLevel: 'repeatable read' },
  );
}

/** Steps as JSON text, put together by the database: nobody parses them only to write them again. */
export interface StepsText {
  /** A JSON array of steps, in order. */ text: string;
  /** There are more than fitted into one answer: for steps after a sequence later ones, for the latest earlier ones. */ more: boolean;
}

/** One answer holds so many bytes of steps at most, but one step always. */
const MOST_ANSWER_BYTES = 24 << 20;

/** As loadSteps, as text, and no more of them than one answer holds. */
export async function loadStepsText(
  database: Database,
  projectId: string,
  after: number,
  {
    last,
    before,
    most = MOST_ANSWER_BYTES,
  }: { last?: number; before?: number; /** Bytes of changes. */ most?: number } = {},
): Promise<StepsText> {
  const order = sql.raw(last === undefined ? 'asc' : 'desc');
  const { rows } = await database.execute<{ text: string | null; more: boolean | null }>(sql`
    with wanted as (
      select seq, json_build_object('id', id, 'seq', seq, 'label', label, 'kind', kind, 'of', "of", 'clientId', client_id)::text as head, change::text as change
      from changes where project_id = ${projectId} and seq > ${after} ${before === undefined ? sql`` : sql`and seq < ${before}`} order by seq ${order} ${last === undefined ? sql`` : sql`limit ${last}`}
    ), summed as (
      select *, sum(octet_length(change)) over (order by seq ${order}) - octet_length(change) as before_it from wanted
    )
    select string_agg(left(head, -1) || ',"change":' || change || '}', ',' order by seq) filter (where before_it < ${most}) as text, bool_or(before_it >= ${most}) as more from summed`);
  return { text: `[${rows[0]?.text ?? ''}]`, more: rows[0]?.more ?? false };
}

/** The project's picture as it was kept, with the sequence that it shows. */
export async function keptPicture(
  database: Database,
  projectId: string,
): Promise<{ seq: number; svg: string } | null> {
  const [row] = await database
    .select({ seq: projectPictures.seq, svg: projectPictures.svg })
    .from(projectPictures)
    .where(eq(projectPictures.projectId, projectId));
  return row ?? null;
}

/** Keeps a picture unless a newer one is kept. */
export async function keepPicture(
  database: Database,
  projectId: string,
  seq: number,
  svg: string,
): Promise<void> {
  await database
    .insert(projectPictures)
    .values({ projectId, seq, svg })
    .onConflictDoUpdate({
      target: projectPictures.projectId,
      set: { seq, svg },
      setWhere: sql`${projectPictures.seq} <= ${seq}`,
    });
}
