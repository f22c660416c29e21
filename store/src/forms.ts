import { and, asc, eq, gt, sql } from 'drizzle-orm';
import { FORM, NewerForm, upgradeChange, upgradeEntity } from '@calque/core/formats';
import type { Change, Entity } from '@calque/core/model';
import type { Database, Transaction } from './database.ts';
import { changes, entities, projects } from './schema.ts';

/** So many entities, or steps, are read and written at a time. */
const ENTITIES_AT_ONCE = 5000,
  STEPS_AT_ONCE = 200;

/**
 * Puts a project into the form of this version, entities and log, in one transaction that holds the project. Does nothing for one
 * that is in it already. Throws NewerForm for one that a newer version has written.
 */
export async function bringUp(database: Database, projectId: string): Promise<void> {
  await database.transaction(async (tx) => {
    const [project] = await tx
      .select({ form: projects.form })
      .from(projects)
      .where(eq(projects.id, projectId))
      .for('update');
    if (project) await bringUpWithin(tx, projectId, project.form);
  });
}

/** As bringUp, within a transaction that holds the project. */
export async function bringUpWithin(tx: Transaction, projectId: string, form: number): Promise<void> {
  if (form === FORM) return;
  if (form > FORM) throw new NewerForm('This project', form);
  await upgradeEntities(tx, projectId, form);
  await upgradeLog(tx, projectId, form);
  await tx.update(projects).set({ form: FORM }).where(eq(projects.id, projectId));
}

async function upgradeEntities(tx: Transaction, projectId: string, form: number): Promise<void> {
  for (let after = -1, rows; ; after = rows.at(-1)!.ordinal) {
    rows = await tx
      .select({ ordinal: entities.ordinal, data: entities.data })
      .from(entities)
      .where(and(eq(entities.projectId, projectId), gt(entities.ordinal, after)))
      .orderBy(asc(entities.ordinal))
      .limit(ENTITIES_AT_ONCE);
    if (rows.length === 0) return;
    const changed = rows.flatMap(({ data }) => {
      const now = upgradeEntity(data, form) as Entity;
      return now === data ? [] : [now];
    });
    if (changed.length > 0)
      await tx.execute(
        sql`update ${entities} set data = e from jsonb_array_elements(${JSON.stringify(changed)}::jsonb) as e where project_id = ${projectId}::uuid and id = e->>'id'`,
      );
  }
}

async function upgradeLog(tx: Transaction, projectId: string, form: number): Promise<void> {
  for (let after = 0, rows; ; after = rows.at(-1)!.seq) {
    rows = await tx
      .select({ seq: changes.seq, change: changes.change })
      .from(changes)
      .where(and(eq(changes.projectId, projectId), gt(changes.seq, after)))
      .orderBy(asc(changes.seq))
      .limit(STEPS_AT_ONCE);
    if (rows.length === 0) return;
    for (const { seq, change } of rows) {
      const now = upgradeChange(change, form) as Change;
      await tx
        .update(changes)
        .set({ change: now })
        .where(and(eq(changes.projectId, projectId), eq(changes.seq, seq)));
    }
  }
}
