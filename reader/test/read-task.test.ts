import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import {
  attachFile,
  fileToRead,
  findSheet,
  oneChunk,
  readBlob,
  removeFile,
  setFileState,
  storeBlob,
} from '@calque/store';
import { newProject, testDatabase } from '../../store/test/given.ts';
import type { ChildMessage, ChildTask } from '../src/service/protocol.ts';
import { readTask } from '../src/service/read-task.ts';
import type { runChild } from '../src/service/run-child.ts';

const database = testDatabase();
const BYTES = Buffer.from('%PDF-1.4 as good as any');

async function attached(): Promise<string> {
  const blob = await storeBlob(database, oneChunk(BYTES));
  return attachFile(database, await newProject(database), blob.id, 'plan.pdf');
}

/** A page as the child tells of it. */
const page = (n: number, words = 'Boat bay'): ChildMessage => ({
  type: 'page',
  page: n,
  width: 100,
  height: 80,
  content: 'vector',
  counts: {} as never,
  leftOut: {} as never,
  layers: [],
  hatches: 0,
  milliseconds: 1,
  whole: true,
  markups: 0,
  dimensions: 0,
  scaleNotes: [],
  title: { number: '', title: '' },
  words,
  reference: null,
  unknown: null,
  pixels: null,
});

/** A child that does what it is told here, in place of the real one. */
const child =
  (act: (task: ChildTask, tell: (m: ChildMessage) => Promise<void>) => Promise<void>): typeof runChild =>
  async (task, _limits, sourceReady, onMessage) => {
    await sourceReady;
    await act(task, onMessage);
  };
const givePage = async (task: ChildTask, tell: (m: ChildMessage) => Promise<void>, n: number) => {
  writeFileSync(join(task.results, `${n}.cqlw`), 'linework');
  await tell(page(n));
};

describe('reading a file of the queue', () => {
  it('hands the child the whole source, and keeps each page as it comes', async () => {
    const id = await attached();
    await readTask(database, id, {
      run: child(async (task, tell) => {
        expect(readFileSync(task.source).equals(BYTES)).toBe(true);
        await tell({
          type: 'facts',
          pages: 2,
          kind: 'pdf',
          encrypted: false,
          repaired: false,
          drawing: false,
        });
        await givePage(task, tell, 1);
        expect(await fileToRead(database, id)).toMatchObject({ status: 'reading', pages: 2, pagesRead: 1 });
        await givePage(task, tell, 2);
      }),
    });
    expect(await fileToRead(database, id)).toMatchObject({ status: 'ready', pagesRead: 2 });
    expect(await findSheet(database, (await fileToRead(database, id))!.projectId, id, 2)).toMatchObject({
      width: 100,
      words: 'Boat bay',
    });
  });

  it('lines that come first are there while the rest of the page is looked for, and the whole page takes their place', async () => {
    const id = await attached();
    const project = (await fileToRead(database, id))!.projectId;
    const seen: unknown[] = [];
    const look = async () => {
      const sheet = (await findSheet(database, project, id, 1))!;
      const bytes: Uint8Array[] = [];
      for await (const part of readBlob(database, sheet.lineworkBlobId!)) bytes.push(part);
      const file = (await fileToRead(database, id))!;
      seen.push([sheet.whole, sheet.dimensions, Buffer.concat(bytes).toString(), file.pagesRead]);
    };
    await readTask(database, id, {
      run: child(async (task, tell) => {
        writeFileSync(join(task.results, '1.first.cqlw'), 'lines');
        await tell({ ...page(1), whole: false } as ChildMessage);
        await look();
        writeFileSync(join(task.results, '1.cqlw'), 'all');
        await tell({ ...page(1), dimensions: 7 } as ChildMessage);
        await look();
        // A reader that takes the file up once more has lines first, too: the whole page stays.
        writeFileSync(join(task.results, '1.first.cqlw'), 'lines');
        await tell({ ...page(1), whole: false } as ChildMessage);
        await look();
      }),
    });
    expect(seen).toEqual([
      [false, 0, 'lines', 0],
      [true, 7, 'all', 1],
      [true, 7, 'all', 0],
    ]);
  });

  it('a file that is removed meanwhile ends the job without an error', async () => {
    const id = await attached();
    await expect(
      readTask(database, id, {
        run: child(async (task, tell) => {
          await givePage(task, tell, 1);
          await removeFile(database, (await fileToRead(database, id))!);
          writeFileSync(join(task.results, '2.png'), Buffer.from([0, 1, 2, 0]));
          await givePage(task, tell, 2);
        }),
      }),
    ).resolves.toBeUndefined();
    expect(await fileToRead(database, id)).toBeNull();
  });

  it('what the database refuses ends the file as failed, with the reason; the queue is not asked again', async () => {
    const id = await attached();
    await readTask(database, id, {
      run: child(async (task, tell) => {
        writeFileSync(join(task.results, '1.cqlw'), 'linework');
        await tell(page(1, 'zero \0 character'));
      }),
    });
    expect(await fileToRead(database, id)).toMatchObject({
      status: 'failed',
      message: expect.stringMatching(/cannot be kept: the database does not take it/),
    });
  });

  it('what may pass is tried again, and the last try ends with its reason', async () => {
    const id = await attached();
    const away = child(async () => {
      throw Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED' });
    });
    const full = child(async () => {
      throw Object.assign(new Error('write ENOSPC'), { code: 'ENOSPC' });
    });
    for (const run of [away, full]) {
      await expect(readTask(database, id, { run })).rejects.toThrow(/ECONNREFUSED|ENOSPC/);
      expect(await fileToRead(database, id)).toMatchObject({ status: 'waiting' });
    }
    await readTask(database, id, { run: full, lastTry: true });
    expect(await fileToRead(database, id)).toMatchObject({
      status: 'failed',
      message: expect.stringContaining('no room left in the temporary folder'),
    });
  });

  it('a temporary folder that takes nothing is such a case too', async () => {
    const id = await attached();
    const usual = process.env.TMPDIR;
    process.env.TMPDIR = '/proc/no-such-folder';
    try {
      await expect(readTask(database, id, { run: child(async () => {}) })).rejects.toThrow();
      await readTask(database, id, { run: child(async () => {}), lastTry: true });
    } finally {
      process.env.TMPDIR = usual;
      if (usual === undefined) delete process.env.TMPDIR;
    }
    expect(await fileToRead(database, id)).toMatchObject({ status: 'failed' });
  });

  it('a file that nobody waits for any more is not read', async () => {
    const id = await attached();
    await setFileState(database, (await fileToRead(database, id))!, { status: 'cancelled' });
    await readTask(database, id, {
      run: child(async () => {
        throw new Error('must not be started');
      }),
    });
    expect(await fileToRead(database, id)).toMatchObject({ status: 'cancelled' });
  });
});
