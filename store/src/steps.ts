import { and, eq, sql } from 'drizzle-orm';
import {
  apply,
  brokenBy,
  modelOf,
  parseChange,
  parseEntity,
  referencesOf,
  REFERRING_FIELDS,
  STOOD_ON,
  touchedIds,
  type Change,
  type Entities,
  type Entity,
  type LogStep,
  type Model,
  type Refusal,
} from '@calque/core/model';
import type { Database, Transaction } from './database.ts';
import { faultOf } from './fault.ts';
import { bringUpWithin } from './forms.ts';
import { tell } from './notices.ts';
import { changes, entities, files, projects } from './schema.ts';

export type NewStep = Omit<LogStep, 'seq'>;
/** A step whose change is still to be checked. */
export type BroughtStep = Omit<NewStep, 'change'> & { change: unknown };

/** Why a step was not taken: it does not fit what is there, or it is no sound step at all. */
export type StepFailure =
  | { code: 'refused'; stepId: string; refusal: Refusal }
  | { code: 'invalid'; stepId: string; message: string };

export type Submitted =
  { ok: true; seq: number } | { ok: false; code: 'no-project' } | ({ ok: false; seq: number } & StepFailure);

/**
 * Takes steps in order, each whole or not at all: checks each by itself against the entities as they are, writes
 * the log and the entities in one transaction. A step that is in the log already (sent again after a
 * lost answer) counts as done. Stops at the first that cannot be taken; those before it are kept.
 */
export async function submitSteps(
  database: Database,
  projectId: string,
  clientId: string,
  steps: readonly BroughtStep[],
): Promise<Submitted> {
  return database.transaction(async (tx) => {
    const [project] = await tx
      .select({ id: projects.id, seq: projects.seq, deleted: projects.deleted, form: projects.form })
      .from(projects)
      .where(eq(projects.id, projectId))
      .for('update');
    if (!project || project.deleted) return { ok: false, code: 'no-project' };
    await bringUpWithin(tx, project.id, project.form);
    const { seq, failure } = await takeSteps(tx, project, clientId, steps);
    if (seq !== project.seq) await tell(tx, { projectId, what: 'changes', seq });
    return failure ? { ok: false, seq, ...failure } : { ok: true, seq };
  });
}

/** Takes steps within a transaction that holds the project. */
export async function takeSteps(
  tx: Transaction,
  project: { id: string; seq: number },
  clientId: string,
  steps: readonly BroughtStep[],
): Promise<{ seq: number; failure: StepFailure | null }> {
  const known =
    steps.length === 0
      ? []
      : await tx
          .select({ id: changes.id })
          .from(changes)
          .where(
            and(
              eq(changes.projectId, project.id),
              sql`${changes.id} = any(${sql.param(steps.map((s) => s.id))}::uuid[])`,
            ),
          );
  const have = new Set(known.map((k) => k.id));
  let { seq } = project;
  for (const step of steps) {
    if (have.has(step.id)) continue;
    const failure = await takeStep(tx, project.id, clientId, step, seq + 1);
    if (failure) return { seq, failure };
    have.add(step.id);
    seq++;
  }
  return { seq, failure: null };
}

async function takeStep(
  tx: Transaction,
  projectId: string,
  clientId: string,
  brought: BroughtStep,
  seq: number,
): Promise<StepFailure | null> {
  const invalid = (error: unknown): StepFailure => ({
    code: 'invalid',
    stepId: brought.id,
    message: error instanceof Error ? error.message : String(error),
  });
  let change: Change;
  try {
    change = parseChange(brought.change);
  } catch (error) {
    return invalid(error);
  }
  const ids = [...new Set(touchedIds(change))];
  const before = await entitiesById(tx, projectId, ids);
  const applied = apply(before, change);
  if (!applied.ok) return { code: 'refused', stepId: brought.id, refusal: applied.refusal };
  const written: Entity[] = [];
  try {
    for (const id of ids) {
      const entity = applied.model.get(id);
      if (entity) written.push(parseEntity(entity));
    }
    const broken =
      brokenBy(change, before, await surroundings(tx, projectId, ids, before, applied.model)) ??
      (await missingFile(tx, projectId, written, before));
    if (broken) throw new Error(broken);
  } catch (error) {
    const fault = faultOf(error);
    if (fault.kind !== 'other' || fault.code !== null) throw error;
    return invalid(error);
  }
  try {
    // A value that the database refuses ends this step alone, not the steps before it.
    await tx.transaction((inner) =>
      writeStep(
        inner,
        projectId,
        clientId,
        { ...brought, change },
        seq,
        before,
        written,
        ids.filter((id) => !applied.model.has(id)),
      ),
    );
    return null;
  } catch (error) {
    const fault = faultOf(error);
    if (fault.kind !== 'refused') throw error;
    return invalid(fault.words);
  }
}

/** Entities are written so many at a time, as one JSON text. */
const AT_ONCE = 5000;

async function writeStep(
  tx: Transaction,
  projectId: string,
  clientId: string,
  step: NewStep,
  seq: number,
  before: Model,
  written: readonly Entity[],
  gone: readonly string[],
): Promise<void> {
  if (gone.length > 0) await tx.delete(entities).where(and(eq(entities.projectId, projectId), among(gone)));
  const settings = written.find((e) => e.type === 'settings');
  await addEntities(
    tx,
    projectId,
    written.filter((e) => !before.has(e.id)),
  );
  await replaceEntities(
    tx,
    projectId,
    written.filter((e) => before.has(e.id)),
  );
  await tx.insert(changes).values({
    projectId,
    seq,
    id: step.id,
    clientId,
    label: step.label,
    kind: step.kind,
    of: step.of,
    change: step.change,
  });
  await tx
    .update(projects)
    .set({ seq, updated: new Date(), ...(settings ? { name: settings.name } : {}) })
    .where(eq(projects.id, projectId));
}

/** Writes one part after the other; the next is made ready here while the database is at work. */
async function inParts(
  written: readonly Entity[],
  write: (json: string) => PromiseLike<unknown>,
): Promise<void> {
  let writing: Promise<unknown> = Promise.resolve();
  for (let at = 0; at < written.length; at += AT_ONCE) {
    const json = JSON.stringify(written.slice(at, at + AT_ONCE));
    await writing;
    writing = Promise.resolve(write(json));
  }
  await writing;
}

/** Puts entities that are not there yet, in their order. */
export const addEntities = (tx: Transaction, projectId: string, added: readonly Entity[]): Promise<void> =>
  inParts(added, (json) =>
    tx.execute(sql`insert into ${entities} (project_id, id, type, data)
    select ${projectId}::uuid, e->>'id', e->>'type', e from jsonb_array_elements(${json}::jsonb) with ordinality as given(e, n) order by n`),
  );

const replaceEntities = (tx: Transaction, projectId: string, changed: readonly Entity[]): Promise<void> =>
  inParts(changed, (json) =>
    tx.execute(
      sql`update ${entities} set data = e, type = e->>'type' from jsonb_array_elements(${json}::jsonb) as e where project_id = ${projectId}::uuid and id = e->>'id'`,
    ),
  );

/** One array of ids instead of a parameter to each: a step may touch more entities than a query may have parameters. */
const among = (ids: readonly string[]) => sql`${entities.id} = any(${sql.param(ids)}::text[])`;

async function entitiesById(tx: Transaction, projectId: string, ids: readonly string[]): Promise<Model> {
  const rows =
    ids.length === 0
      ? []
      : await tx
          .select({ data: entities.data })
          .from(entities)
          .where(and(eq(entities.projectId, projectId), among(ids)));
  return modelOf(rows.map((r) => r.data));
}

/** What brokenBy may ask of a project of which only a part is at hand. */
async function surroundings(
  tx: Transaction,
  projectId: string,
  ids: readonly string[],
  before: Model,
  after: Model,
): Promise<Entities> {
  const touched = new Set(ids);
  const named = [...after.values()]
    .flatMap(referencesOf)
    .map((r) => r.id)
    .filter((id) => !touched.has(id));
  const others = await entitiesById(tx, projectId, [...new Set(named)]);
  const gone = ids.filter((id) => !after.has(id) && before.has(id));
  const standing = gone.length === 0 ? [] : await standingOn(tx, projectId, gone, before);
  const storeys = gone.some((id) => before.get(id)!.type === 'storey')
    ? await tx
        .select({ id: entities.id })
        .from(entities)
        .where(and(eq(entities.projectId, projectId), eq(entities.type, 'storey')))
    : [];
  return {
    get: (id) => (touched.has(id) ? after.get(id) : others.get(id)),
    standingOn: () => [...after.values(), ...standing.filter((e) => !touched.has(e.id))],
    hasStoreyBeside: (without) =>
      [
        ...after.values(),
        ...storeys.filter((s) => !touched.has(s.id)).map((s) => ({ id: s.id, type: 'storey' as const })),
      ].some((e) => e.type === 'storey' && !without.has(e.id)),
  };
}

async function standingOn(
  tx: Transaction,
  projectId: string,
  gone: readonly string[],
  before: Model,
): Promise<Entity[]> {
  const carriers = gone.filter((id) => STOOD_ON.has(before.get(id)!.type));
  if (carriers.length === 0) return [];
  const names = sql.join(
    REFERRING_FIELDS.map(
      (field) => sql`${entities.data}->>${sql.raw(`'${field}'`)} = any(${sql.param(carriers)}::text[])`,
    ),
    sql` or `,
  );
  const rows = await tx
    .select({ data: entities.data })
    .from(entities)
    .where(and(eq(entities.projectId, projectId), sql`(${names})`));
  return rows.map((r) => r.data);
}

/** The attached file that an entity cannot be without. */
const fileOf = (e: Entity): string | null =>
  e.type === 'underlay' || e.type === 'feature' ? (e.fileId ?? null) : null;

/** Sheets lie from files of the project that are there. */
async function missingFile(
  tx: Transaction,
  projectId: string,
  written: readonly Entity[],
  before: Model,
): Promise<string | null> {
  const wanted = new Set(
    written.flatMap((e) => {
      const id = fileOf(e),
        was = before.get(e.id);
      return id !== null && !(was && fileOf(was) === id) ? [id] : [];
    }),
  );
  if (wanted.size === 0) return null;
  const there = await tx
    .select({ id: files.id })
    .from(files)
    .where(
      and(eq(files.projectId, projectId), sql`${files.id}::text = any(${sql.param([...wanted])}::text[])`),
    );
  return there.length < wanted.size
    ? 'the file that the sheet or the solid is of is not in this project'
    : null;
}
