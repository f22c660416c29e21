import { createWriteStream } from 'node:fs';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { findFile, oneChunk, readBlob, setFileState, storeBlob, storeSheet, storeTile, type Database, type FileRow } from '@calque/store';
import { ReadFailure } from '../failure.ts';
import { storable } from './page-facts.ts';
import { Cancelled, runChild } from './run-child.ts';
import type { ChildMessage } from './protocol.ts';
import { settings } from './settings.ts';

/** Reads one attached file and stores its sheets as they come. Every end is a state with words. */
export async function readTask(database: Database, fileId: string, run = runChild): Promise<void> {
  const file = await findFile(database, fileId);
  if (!file || !(await setFileState(database, file, { status: 'reading', message: null }, ['waiting', 'reading']))) return;
  const folder = await mkdtemp(join(tmpdir(), 'calque-read-'));
  try {
    const source = join(folder, 'source');
    const fetched = pipeline(Readable.from(readBlob(database, file.blobId)), createWriteStream(source));
    const { engineMegabytes, heapMegabytes, secondsPerPage, picturePixels } = settings();
    await run(
      { source, results: folder, password: file.password, maxMegabytes: engineMegabytes, picturePixels, millimetresPerUnit: file.millimetresPerUnit },
      { heapMegabytes, secondsPerPage, cancelled: async () => { const now = await findFile(database, fileId); return !now || now.status === 'cancelled'; } },
      fetched,
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
    const drawing = message.drawing ? await storeBlob(database, oneChunk(await readFile(join(folder, 'drawing.pdf')))) : null;
    await setFileState(database, file, { pages, kind, encrypted, repaired, drawingBlobId: drawing?.id ?? null });
  } else if (message.type === 'page') {
    const { type: _, ...facts } = message;
    const path = join(folder, `${message.page}.cqlw`);
    const linework = await storeBlob(database, oneChunk(await readFile(path)));
    const picture = await readFile(join(folder, `${message.page}.png`)).catch(() => null);
    await storeSheet(database, { ...facts, fileId: file.id, lineworkBlobId: linework.id, picture });
    if (facts.pixels) await storeTiles(database, file.id, message.page, join(folder, `${message.page}.tiles`, 'p_files'));
    await setFileState(database, file, { pagesRead: message.page });
    await Promise.all([rm(path, { force: true }), rm(join(folder, `${message.page}.png`), { force: true }), rm(join(folder, `${message.page}.tiles`), { recursive: true, force: true })]);
  }
}

/** Stores the tiles that lie as folder/level/column_row.jpeg. */
async function storeTiles(database: Database, fileId: string, page: number, folder: string): Promise<void> {
  for (const level of await readdir(folder)) {
    if (!/^\d+$/.test(level)) continue;
    for (const name of await readdir(join(folder, level))) {
      const [, column, row] = /^(\d+)_(\d+)\./.exec(name) ?? [];
      if (column !== undefined) await storeTile(database, { fileId, page, level: Number(level), column: Number(column), row: Number(row), bytes: await readFile(join(folder, level, name)) });
    }
  }
}

async function settle(database: Database, file: FileRow, error: unknown): Promise<void> {
  if (error instanceof Cancelled) return;
  if (error instanceof ReadFailure) {
    await setFileState(database, file, { status: error.code === 'password' || error.code === 'units' ? error.code : 'failed', message: error.message });
    return;
  }
  // Removed while it was being read: there is nothing left to say, and nobody to hear it.
  if ((await findFile(database, file.id).catch(() => file)) === null) return;
  // The database or the disk: leave the file waiting, the queue tries again.
  await setFileState(database, file, { status: 'waiting' }).catch(() => {});
  throw inWords(error);
}

const LONGEST_WORDS = 500;

/** The queue keeps what went wrong as text; a failed query names all that it was to write, bytes of pictures too. */
function inWords(error: unknown): Error {
  const innermost = error instanceof Error && error.cause instanceof Error ? error.cause : error;
  return new Error(storable(innermost instanceof Error ? innermost.message : String(innermost)).slice(0, LONGEST_WORDS));
}
