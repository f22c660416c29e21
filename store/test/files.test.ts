import { randomBytes, randomUUID, createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  attachFile,
  beat,
  blobBytes,
  blobFacts,
  collectBlobs,
  destroyProject,
  fileToRead,
  findFile,
  findSheet,
  getMeta,
  listFiles,
  oneChunk,
  passwordOf,
  projectFlag,
  READ_TASK,
  readAgain,
  readBlob,
  removeFile,
  schema,
  setBinned,
  setFileState,
  setMeta,
  storeBlob,
  storeSheet,
  takeUpLeftFiles,
  TooLarge,
} from '@calque/store';
import { newProject, sheetOf, testDatabase } from './given.ts';

const database = testDatabase();
const MEGABYTE = 1 << 20;

async function* inParts(bytes: Uint8Array, size: number): AsyncIterable<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

const jobsFor = async (fileId: string) =>
  Number(
    (
      await database.execute<{ n: string }>(
        sql`select count(*) n from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = ${READ_TASK} and j.payload->>'fileId' = ${fileId}`,
      )
    ).rows[0].n,
  );

describe('blobs', () => {
  it('come back byte for byte, whatever their length and however they arrive', async () => {
    const length = fc.oneof(
      fc.constantFrom(0, 1, MEGABYTE - 1, MEGABYTE, MEGABYTE + 1, 2 * MEGABYTE),
      fc.integer({ min: 0, max: 3 * MEGABYTE }),
    );
    await fc.assert(
      fc.asyncProperty(length, fc.integer({ min: 20000, max: 2 * MEGABYTE }), async (size, part) => {
        const bytes = new Uint8Array(randomBytes(size));
        const stored = await storeBlob(database, inParts(bytes, part));
        expect(stored).toMatchObject({ size, sha256: createHash('sha256').update(bytes).digest('hex') });
        expect(Buffer.compare(await blobBytes(database, stored.id), bytes)).toBe(0);
      }),
      { numRuns: 12 },
    );
  });

  const blobCount = async () =>
    Number((await database.execute<{ n: string }>(sql`select count(*) n from blobs`)).rows[0].n);

  it('a stream that breaks off, or grows too large, leaves nothing', async () => {
    const before = await blobCount();
    async function* broken(): AsyncIterable<Uint8Array> {
      yield randomBytes(MEGABYTE + 5);
      throw new Error('the line went dead');
    }
    await expect(storeBlob(database, broken())).rejects.toThrow('the line went dead');
    await expect(storeBlob(database, inParts(randomBytes(3 * MEGABYTE), 70000), 2e6)).rejects.toThrow(
      TooLarge,
    );
    expect(await blobCount()).toBe(before);
  });

  it('one that is not there has no bytes and no facts', async () => {
    expect(await blobFacts(database, randomUUID())).toBeNull();
    expect(await blobBytes(database, randomUUID())).toHaveLength(0);
  });
});

describe('files', () => {
  const attached = async () => {
    const project = await newProject(database);
    const blob = await storeBlob(database, oneChunk(new Uint8Array([1, 2, 3])));
    return { project, blob, id: await attachFile(database, project, blob.id, 'plan.pdf') };
  };

  it('attaching asks a reader to read', async () => {
    const { id } = await attached();
    expect(await fileToRead(database, id)).toMatchObject({ name: 'plan.pdf', status: 'waiting', pages: 0 });
    expect(await jobsFor(id)).toBe(1);
  });

  it('reading again forgets the sheets and the trouble, keeps the password and asks once more', async () => {
    const { id, project } = await attached();
    await storeSheet(database, sheetOf(id, 1));
    expect(await findSheet(database, project, id, 1)).toMatchObject({ page: 1 });
    await setFileState(database, (await fileToRead(database, id))!, {
      status: 'password',
      message: 'Locked.',
      pagesRead: 1,
    });
    await readAgain(database, (await fileToRead(database, id))!, { password: 'oar' });
    expect(await fileToRead(database, id)).toMatchObject({ status: 'waiting', message: null, pagesRead: 0 });
    expect(await passwordOf(database, project, id)).toBe('oar');
    expect(await findSheet(database, project, id, 1)).toBeNull();
    expect(await jobsFor(id)).toBe(2);
  });

  it('one of another project is not there, nor its pages', async () => {
    const { id, project } = await attached(),
      other = await newProject(database);
    await storeSheet(database, sheetOf(id, 1));
    expect([(await findFile(database, project, id))?.id, await findFile(database, other, id)]).toEqual([
      id,
      null,
    ]);
    expect([
      (await findSheet(database, project, id, 1))?.page,
      await findSheet(database, other, id, 1),
      await findSheet(database, project, 'no id', 1),
    ]).toEqual([1, null, null]);
  });

  it('a state is set only from those that it may follow', async () => {
    const { id } = await attached();
    const file = (await fileToRead(database, id))!;
    expect(await setFileState(database, file, { status: 'cancelled' }, ['waiting', 'reading'])).toBe(true);
    expect(await setFileState(database, file, { status: 'ready' }, ['reading'])).toBe(false);
    expect((await fileToRead(database, id))?.status).toBe('cancelled');
  });

  it('sheets are listed by page; one stored again replaces the former', async () => {
    const { id, project } = await attached();
    for (const page of [3, 1, 2]) await storeSheet(database, sheetOf(id, page));
    await storeSheet(database, sheetOf(id, 2, { width: 100 }));
    const [file] = await listFiles(database, project);
    expect(file.sheets.map((s) => [s.page, s.width])).toEqual([
      [1, 842],
      [2, 100],
      [3, 842],
    ]);
    expect(await listFiles(database, randomUUID())).toEqual([]);
  });

  it('bytes that nothing uses any more are collected: of a removed project, of an upload that broke off, not of one on its way', async () => {
    const { id, project, blob } = await attached();
    const kept = await attached();
    const linework = await storeBlob(database, oneChunk(new Uint8Array([9])));
    await storeSheet(database, sheetOf(id, 1, { lineworkBlobId: linework.id }));
    const fresh = await storeBlob(database, oneChunk(new Uint8Array([7])));
    const [standing, going] = [randomUUID(), randomUUID()];
    await database.insert(schema.blobs).values([
      { id: standing, touched: new Date(Date.now() - 50 * 60000) },
      { id: going, created: new Date(Date.now() - 3 * 3600000), touched: new Date(Date.now() - 20 * 60000) },
    ]);
    await database.execute(
      sql`update blobs set touched = now() - interval '15 minutes' where id in (${blob.id}, ${linework.id}, ${kept.blob.id})`,
    );
    await setBinned(database, project, true);
    await destroyProject(database, project);
    expect(await collectBlobs(database)).toBeGreaterThanOrEqual(3);
    const there = await Promise.all(
      [blob.id, linework.id, standing, fresh.id, going, kept.blob.id].map(
        async (b) => (await blobFacts(database, b)) !== null,
      ),
    );
    expect(there).toEqual([false, false, false, true, true, true]);
    expect(
      await database
        .select()
        .from(schema.sheets)
        .where(sql`file_id = ${id}`),
    ).toEqual([]);
  });

  it('a removed file is gone with its sheets', async () => {
    const { id, project } = await attached();
    await storeSheet(database, sheetOf(id, 1));
    expect(await removeFile(database, (await fileToRead(database, id))!)).toBe(0);
    expect(await fileToRead(database, id)).toBeNull();
    expect(await findSheet(database, project, id, 1)).toBeNull();
  });

  it('a file whose solid a part takes is not removed under it', async () => {
    const { id, project } = await attached(),
      row = (await fileToRead(database, id))!;
    await database.insert(schema.entities).values({
      projectId: project,
      id: 'f1',
      type: 'feature',
      data: {
        type: 'feature',
        id: 'f1',
        partId: 'p1',
        order: 1,
        name: '',
        off: false,
        fileId: id,
        form: { kind: 'given', does: 'add' },
      },
    });
    expect(await removeFile(database, row)).toBe(1);
    expect(await fileToRead(database, id)).not.toBeNull();
  });

  it("a project's second file waits behind every other project's first", async () => {
    const [mine, yours] = [await newProject(database), await newProject(database)];
    const files: string[] = [];
    for (const project of [mine, mine, mine, yours])
      files.push(
        await attachFile(
          database,
          project,
          (await storeBlob(database, oneChunk(new Uint8Array([1])))).id,
          'plan.pdf',
        ),
      );
    const rows = (
      await database.execute<{ file: string; priority: number; flags: object }>(
        sql`select payload->>'fileId' file, priority, flags from graphile_worker._private_jobs where payload->>'fileId' in (${sql.join(
          files.map((f) => sql`${f}`),
          sql`, `,
        )})`,
      )
    ).rows;
    expect(files.map((f) => rows.find((r) => r.file === f)!.priority)).toEqual([0, 1, 2, 0]);
    expect(rows.find((r) => r.file === files[3])!.flags).toEqual({ [projectFlag(yours)]: true });
  });

  it('what a reader left behind is taken up again, and fails with its reason after a few times; what waits its turn is let be', async () => {
    const [dead, lost, queued, alive] = [
      await attached(),
      await attached(),
      await attached(),
      await attached(),
    ];
    const long = sql`now() - interval '2 minutes'`;
    await database.execute(
      sql`update files set status = 'reading', beat = ${long}, attempts = 1, created = ${long} where id = ${dead.id}`,
    );
    await database.execute(sql`update files set created = ${long} where id in (${lost.id}, ${queued.id})`);
    await database.execute(
      sql`delete from graphile_worker._private_jobs where payload->>'fileId' in (${lost.id}, ${dead.id})`,
    );
    await database.execute(
      sql`update files set status = 'reading', created = ${long} where id = ${alive.id}`,
    );
    await beat(database, alive.id);
    await takeUpLeftFiles(database);
    expect(
      await Promise.all(
        [dead, lost, queued].map(async ({ id }) => [
          (await fileToRead(database, id))!.status,
          await jobsFor(id),
        ]),
      ),
    ).toEqual([
      ['waiting', 1],
      ['waiting', 1],
      ['waiting', 1],
    ]);
    expect((await fileToRead(database, alive.id))!.status).toBe('reading');
    await database.execute(
      sql`update files set status = 'reading', beat = ${long}, attempts = 3 where id = ${dead.id}`,
    );
    await takeUpLeftFiles(database);
    expect(await fileToRead(database, dead.id)).toMatchObject({
      status: 'failed',
      message: expect.stringContaining('3 times'),
    });
  });
});

it('a slow taker of bytes holds no connection', async () => {
  const blob = await storeBlob(database, inParts(new Uint8Array(randomBytes(9 * MEGABYTE)), MEGABYTE));
  const readers = Array.from({ length: 12 }, () => readBlob(database, blob.id));
  for (const r of readers) expect((await r.next()).value?.length).toBeGreaterThan(0);
  // All have begun and none goes on: the pool of four still answers.
  expect((await database.execute<{ one: number }>(sql`select 1 as one`)).rows[0].one).toBe(1);
  for await (const _ of readers[0]);
  await Promise.all(readers.map((r) => r.return(undefined)));
});

it('facts of the installation are kept and replaced', async () => {
  expect(await getMeta(database, 'unit-test')).toBeNull();
  await setMeta(database, 'unit-test', { a: 1 });
  await setMeta(database, 'unit-test', { a: 2 });
  expect(await getMeta(database, 'unit-test')).toEqual({ a: 2 });
});
