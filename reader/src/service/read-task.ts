import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { findFile, oneChunk, readBlob, setFileState, storeBlob, storeSheet, type Database, type FileRow } from '@calque/store';
import { ReadFailure } from '../failure.ts';
import { Cancelled, runChild } from './run-child.ts';
import type { ChildMessage } from './protocol.ts';
import { settings } from './settings.ts';

/** Reads one attached file and stores its sheets as they come. Every end is a state with words. */
export async function readTask(database: Database, fileId: string): Promise<void> {
  const file = await findFile(database, fileId);
  if (!file || !(await setFileState(database, file, { status: 'reading', message: null }, ['waiting', 'reading']))) return;
  const folder = await mkdtemp(join(tmpdir(), 'calque-read-'));
  try {
    const source = join(folder, 'source');
    await pipeline(Readable.from(readBlob(database, file.blobId)), createWriteStream(source));
    const { engineMegabytes, heapMegabytes, secondsPerPage, picturePixels } = settings();
    await runChild(
      { source, results: folder, password: file.password, maxMegabytes: engineMegabytes, picturePixels },
      { heapMegabytes, secondsPerPage, cancelled: async () => { const now = await findFile(database, fileId); return !now || now.status === 'cancelled'; } },
      (message) => take(database, file, folder, message),
    );
    await setFileState(database, file, { status: 'ready' }, ['reading']);
  } catch (error) {
    await settle(database, file, error);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function take(database: Database, file: FileRow, folder: string, message: ChildMessage): Promise<void> {
  if (message.type === 'facts') {
    const { pages, kind, encrypted, repaired } = message;
    await setFileState(database, file, { pages, kind, encrypted, repaired });
  } else if (message.type === 'page') {
    const { type: _, ...facts } = message;
    const path = join(folder, `${message.page}.cqlw`);
    const linework = await storeBlob(database, oneChunk(await readFile(path)));
    const picture = await readFile(join(folder, `${message.page}.png`)).catch(() => null);
    await storeSheet(database, { ...facts, fileId: file.id, lineworkBlobId: linework.id, picture });
    await setFileState(database, file, { pagesRead: message.page });
    await Promise.all([rm(path, { force: true }), rm(join(folder, `${message.page}.png`), { force: true })]);
  }
}

async function settle(database: Database, file: FileRow, error: unknown): Promise<void> {
  if (error instanceof Cancelled) return;
  if (error instanceof ReadFailure) {
    await setFileState(database, file, { status: error.code === 'password' ? 'password' : 'failed', message: error.message });
    return;
  }
  // The database or the disk: leave the file waiting, the queue tries again.
  await setFileState(database, file, { status: 'waiting' }).catch(() => {});
  throw error;
}
