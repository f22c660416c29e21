import { randomUUID } from 'node:crypto';
import { readFileSync, readdirSync } from 'node:fs';
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { FORM, NewerForm, upgradeChange, upgradeEntity } from '@calque/core/formats';
import type { Change, Entity } from '@calque/core/model';
import {
  bringUp,
  findProject,
  loadEntities,
  loadSteps,
  schema,
  submitSteps,
  takeChanges,
} from '@calque/store';
import { unpackProject } from '../src/package/unpack.ts';
import { newProject, step, testDatabase, wall } from './given.ts';

const database = testDatabase();
interface Kept {
  form: number;
  file: string;
  entities: Entity[];
  log: { id: string; seq: number; label: string; change: Change }[];
}
const kept = JSON.parse(readFileSync('core/test/kept/form-1.json', 'utf8')) as Kept;
const upgraded = kept.entities.map((e) => upgradeEntity(e, kept.form));

/** A project as an installation of the first form left it. */
async function former(): Promise<string> {
  const projectId = randomUUID();
  const { projects, entities, changes } = schema;
  await database.insert(projects).values({ id: projectId, name: 'Kept', seq: kept.log.length });
  await database
    .insert(entities)
    .values(kept.entities.map((data) => ({ projectId, id: data.id, type: data.type, data })));
  await database.insert(changes).values(
    kept.log.map(({ seq, label, change }) => ({
      projectId,
      seq,
      label,
      change,
      id: randomUUID(),
      clientId: 'former',
      kind: 'do' as const,
      of: null,
    })),
  );
  return projectId;
}

describe('a project that was stored in a former form', () => {
  it('is put into this one, entities and log, however many ask at once', async () => {
    const id = await former();
    await Promise.all([1, 2, 3].map(() => bringUp(database, id)));
    expect((await findProject(database, id))?.form).toBe(FORM);
    expect(await loadEntities(database, id)).toEqual(upgraded);
    const steps = await loadSteps(database, id, 0);
    expect(steps.map((s) => s.change)).toEqual(kept.log.map((s) => upgradeChange(s.change, kept.form)));
  });

  it('is put into it too by the first step that it takes, and a page of that time is still understood', async () => {
    const id = await former(),
      { planeId, ...own } = wall('of-a-former-page');
    const asSent = (storeyId: string) =>
      JSON.stringify({
        clientId: 'page',
        steps: [step({ type: 'add', entity: { ...own, storeyId } as never })],
      });
    expect(await takeChanges(database, id, asSent(planeId))).toMatchObject({ ok: true });
    const entities = await loadEntities(database, id);
    expect(entities.slice(0, -1)).toEqual(upgraded);
    expect(entities.at(-1)).toEqual(wall('of-a-former-page'));
    // What it names is looked up as ever.
    expect(
      await takeChanges(database, id, asSent('nowhere').replace('of-a-former-page', 'w2')),
    ).toMatchObject({
      ok: false,
      code: 'invalid',
    });
  });

  it('is refused in words where a newer version has written it, and stays as it is', async () => {
    const id = await newProject(database);
    await database
      .update(schema.projects)
      .set({ form: FORM + 1 })
      .where(eq(schema.projects.id, id));
    await expect(bringUp(database, id)).rejects.toThrow(NewerForm);
    await expect(submitSteps(database, id, 'c', [step({ type: 'add', entity: wall('w') })])).rejects.toThrow(
      /saved by a newer Calque/,
    );
    expect((await findProject(database, id))?.seq).toBe(1);
  });

  it('and steps that are newer than the server are refused whole, in words', async () => {
    const id = await newProject(database);
    const newer = JSON.stringify({
      clientId: 'page',
      form: FORM + 1,
      steps: [step({ type: 'add', entity: wall('w') })],
    });
    await expect(takeChanges(database, id, newer)).rejects.toThrow(NewerForm);
    for (const form of [0, -3, '2', 1.5])
      await expect(
        takeChanges(database, id, newer.replace(`"form":${FORM + 1}`, `"form":${JSON.stringify(form)}`)),
      ).rejects.toMatchObject({ name: 'NoRequest' });
  });
});

const packages = readdirSync('store/test/kept').filter((name) => name.endsWith('.calque'));
it.each(packages)('a package of its time, %s, opens as what it held', async (name) => {
  const held = JSON.parse(readFileSync(`core/test/kept/${name.replace('.calque', '.json')}`, 'utf8')) as Kept;
  const id = await unpackProject(database, `store/test/kept/${name}`);
  const entities = await loadEntities(database, id);
  expect((await findProject(database, id))?.form).toBe(FORM);
  const files = new Set(entities.flatMap((e) => (e.type === 'underlay' ? [e.fileId] : [])));
  expect(files.size).toBe(1);
  const asKept = JSON.stringify(
    held.entities.map((e) => upgradeEntity(e, held.form) as Entity).sort(byId),
  ).replaceAll(held.file, [...files][0]);
  expect(JSON.parse(JSON.stringify(entities.slice().sort(byId)))).toEqual(JSON.parse(asKept));
});
const byId = (a: unknown, b: unknown) => ((a as Entity).id < (b as Entity).id ? -1 : 1);
