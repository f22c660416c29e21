import { randomBytes, randomUUID, createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  attachFile, blobBytes, blobFacts, destroyProject, findFile, findSheet, getMeta, listFiles, oneChunk, READ_TASK, readAgain, removeFile, schema, setBinned, setFileState, setMeta, storeBlob, storeSheet, TooLarge,
  type SheetRow,
} from '@calque/store';
import { newProject, testDatabase } from './given.ts';

const database = testDatabase();
const MEGABYTE = 1 << 20;

async function* inParts(bytes: Uint8Array, size: number): AsyncIterable<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

const sheet = (fileId: string, page: number, more: Partial<SheetRow> = {}): SheetRow => ({
  fileId, page, width: 842, height: 595, content: 'vector', layers: [], scaleNotes: [], lineworkBlobId: null, picture: null, milliseconds: 5,
  counts: { segments: 1, arcs: 0, circles: 0, curves: 0, fills: 0, texts: 0, images: 0 },
  leftOut: { clipped: 0, outside: 0, zeroLength: 0, unpainted: 0, paperColoured: 0, covered: 0 }, ...more,
} as SheetRow);

const jobsFor = async (fileId: string) => Number((await database.execute<{ n: string }>(sql`select count(*) n from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = ${READ_TASK} and j.payload->>'fileId' = ${fileId}`)).rows[0].n);

describe('blobs', () => {
  it('come back byte for byte, whatever their length and however they arrive', async () => {
    const length = fc.oneof(fc.constantFrom(0, 1, MEGABYTE - 1, MEGABYTE, MEGABYTE + 1, 2 * MEGABYTE), fc.integer({ min: 0, max: 3 * MEGABYTE }));
    await fc.assert(fc.asyncProperty(length, fc.integer({ min: 20000, max: 2 * MEGABYTE }), async (size, part) => {
      const bytes = new Uint8Array(randomBytes(size));
      const stored = await storeBlob(database, inParts(bytes, part));
      expect(stored).toMatchObject({ size, sha256: createHash('sha256').update(bytes).digest('hex') });
      expect(Buffer.compare(await blobBytes(database, stored.id), bytes)).toBe(0);
    }), { numRuns: 12 });
  });

  const blobCount = async () => Number((await database.execute<{ n: string }>(sql`select count(*) n from blobs`)).rows[0].n);

  it('a stream that breaks off, or grows too large, leaves nothing', async () => {
    const before = await blobCount();
    async function* broken(): AsyncIterable<Uint8Array> {
      yield randomBytes(MEGABYTE + 5);
      throw new Error('the line went dead');
    }
    await expect(storeBlob(database, broken())).rejects.toThrow('the line went dead');
    await expect(storeBlob(database, inParts(randomBytes(3 * MEGABYTE), 70000), 2e6)).rejects.toThrow(TooLarge);
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
    expect(await findFile(database, id)).toMatchObject({ name: 'plan.pdf', status: 'waiting', pages: 0 });
    expect(await jobsFor(id)).toBe(1);
  });

  it('reading again forgets the sheets and the trouble, keeps the password and asks once more', async () => {
    const { id } = await attached();
    await storeSheet(database, sheet(id, 1));
    await setFileState(database, (await findFile(database, id))!, { status: 'password', message: 'Locked.', pagesRead: 1 });
    await readAgain(database, (await findFile(database, id))!, 'oar');
    expect(await findFile(database, id)).toMatchObject({ status: 'waiting', message: null, password: 'oar', pagesRead: 0 });
    expect(await findSheet(database, id, 1)).toBeNull();
    expect(await jobsFor(id)).toBe(2);
  });

  it('a state is set only from those that it may follow', async () => {
    const { id } = await attached();
    const file = (await findFile(database, id))!;
    expect(await setFileState(database, file, { status: 'cancelled' }, ['waiting', 'reading'])).toBe(true);
    expect(await setFileState(database, file, { status: 'ready' }, ['reading'])).toBe(false);
    expect((await findFile(database, id))?.status).toBe('cancelled');
  });

  it('sheets are listed by page; one stored again replaces the former', async () => {
    const { id, project } = await attached();
    for (const page of [3, 1, 2]) await storeSheet(database, sheet(id, page));
    await storeSheet(database, sheet(id, 2, { width: 100 }));
    const [file] = await listFiles(database, project);
    expect(file.sheets.map((s) => [s.page, s.width])).toEqual([[1, 842], [2, 100], [3, 842]]);
    expect(await listFiles(database, randomUUID())).toEqual([]);
  });

  it('bytes that nothing uses any more go with their project, an hour after they came', async () => {
    const { id, project, blob } = await attached();
    const linework = await storeBlob(database, oneChunk(new Uint8Array([9])));
    await storeSheet(database, sheet(id, 1, { lineworkBlobId: linework.id }));
    const fresh = await storeBlob(database, oneChunk(new Uint8Array([7])));
    await database.execute(sql`update blobs set created = now() - interval '2 hours' where id in (${blob.id}, ${linework.id})`);
    await setBinned(database, project, true);
    await destroyProject(database, project);
    expect(await blobFacts(database, blob.id)).toBeNull();
    expect(await blobFacts(database, linework.id)).toBeNull();
    expect(await blobFacts(database, fresh.id)).toMatchObject({ size: 1 });
    expect(await database.select().from(schema.sheets).where(sql`file_id = ${id}`)).toEqual([]);
  });

  it('a removed file is gone with its sheets', async () => {
    const { id } = await attached();
    await storeSheet(database, sheet(id, 1));
    await removeFile(database, (await findFile(database, id))!);
    expect(await findFile(database, id)).toBeNull();
    expect(await findSheet(database, id, 1)).toBeNull();
  });
});

it('facts of the installation are kept and replaced', async () => {
  expect(await getMeta(database, 'unit-test')).toBeNull();
  await setMeta(database, 'unit-test', { a: 1 });
  await setMeta(database, 'unit-test', { a: 2 });
  expect(await getMeta(database, 'unit-test')).toEqual({ a: 2 });
});
