import { createWriteStream } from 'node:fs';
import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { journal } from '@calque/journal';
import { withoutBroken } from '@calque/core/texts';
import {
  beat,
  beginReading,
  faultOf,
  fileToRead,
  oneChunk,
  passwordOf,
  readBlob,
  setFileState,
  storeBlob,
  storeSheet,
  storeTile,
  type Database,
  type FileRow,
} from '@calque/store';
import { asFailure, ReadFailure } from '../failure.ts';
import { readingFolder, type WarmChildren } from './warm-children.ts';
import { Cancelled, runChild } from './run-child.ts';
import { lineworkFile, type ChildMessage } from './protocol.ts';
import { settings } from './settings.ts';

/** While a file is read this is said of it so often; the store takes up what is silent for longer. */
const BEAT_MS = 4000;

/**
 * Reads one attached file and stores its sheets as they come. Every end is a state with words; what may go better later throws, so
 * that the queue tries again, unless this is the `lastTry`.
 */
export async function readTask(
  database: Database,
  fileId: string,
  {
    lastTry = false,
    run = runChild,
    warm,
  }: { lastTry?: boolean; run?: typeof runChild; warm?: WarmChildren } = {},
): Promise<void> {
  const file = await fileToRead(database, fileId);
  if (!file || !(await beginReading(database, file))) return;
  const beating = setInterval(() => void beat(database, fileId).catch(() => {}), BEAT_MS);
  let folder: string | null = null;
  try {
    const ready = warm?.take();
    folder = ready?.folder ?? (await readingFolder());
    await readInto(database, file, folder, (task, limits, fetched, onMessage) =>
      run(task, limits, fetched, onMessage, ready?.child),
    );
    await setFileState(database, file, { status: 'ready', attempts: 0 }, ['reading']);
  } catch (error) {
    await settle(database, file, error, lastTry).catch((e: unknown) => {
      throw inWords(e);
    });
  } finally {
    clearInterval(beating);
    warm?.refill();
    if (folder) await rm(folder, { recursive: true, force: true }).catch(() => {});
  }
}

async function readInto(
  database: Database,
  file: FileRow,
  folder: string,
  run: typeof runChild,
): Promise<void> {
  const source = join(folder, 'source');
  const fetched = pipeline(Readable.from(readBlob(database, file.blobId)), createWriteStream(source));
  const { engineMegabytes, picturePixels, atOnce: _, warm: __, ...limits } = settings();
  await run(
    {
      source,
      results: folder,
      password: await passwordOf(database, file.projectId, file.id),
      maxMegabytes: engineMegabytes,
      picturePixels,
      millimetresPerUnit: file.millimetresPerUnit,
    },
    {
      ...limits,
      cancelled: async () => {
        const now = await fileToRead(database, file.id);
        return !now || now.status === 'cancelled';
      },
    },
    fetched,
    (message) => take(database, file, folder, message),
  );
}

async function take(database: Database, file: FileRow, folder: string, message: ChildMessage): Promise<void> {
  if (message.type === 'facts') {
    const { pages, kind, encrypted, repaired } = message;
    const drawing = message.drawing
      ? await storeBlob(database, oneChunk(await readFile(join(folder, 'drawing.pdf'))))
      : null;
    await setFileState(database, file, {
      pages,
      kind,
      encrypted,
      repaired,
      drawingBlobId: drawing?.id ?? null,
    });
  } else if (message.type === 'page') {
    const { type: _, ...facts } = message;
    const path = join(folder, lineworkFile(message.page, message.whole));
    const linework = await storeBlob(database, oneChunk(await readFile(path)));
    const picture = await readFile(join(folder, `${message.page}.png`)).catch(() => null);
    await storeSheet(database, { ...facts, fileId: file.id, lineworkBlobId: linework.id, picture });
    if (facts.pixels)
      await storeTiles(database, file.id, message.page, join(folder, `${message.page}.tiles`, 'p_files'));
    await setFileState(database, file, { pagesRead: message.whole ? message.page : message.page - 1 });
    await Promise.all([
      rm(path, { force: true }),
      rm(join(folder, `${message.page}.png`), { force: true }),
      rm(join(folder, `${message.page}.tiles`), { recursive: true, force: true }),
    ]);
  }
}

/** Stores the tiles that lie as folder/level/column_row.jpeg. */
async function storeTiles(database: Database, fileId: string, page: number, folder: string): Promise<void> {
  for (const level of await readdir(folder)) {
    if (!/^\d+$/.test(level)) continue;
    for (const name of await readdir(join(folder, level))) {
      const [, column, row] = /^(\d+)_(\d+)\./.exec(name) ?? [];
      if (column !== undefined)
        await storeTile(database, {
          fileId,
          page,
          level: Number(level),
          column: Number(column),
          row: Number(row),
          bytes: await readFile(join(folder, level, name)),
        });
    }
  }
}

async function settle(database: Database, file: FileRow, error: unknown, lastTry: boolean): Promise<void> {
  if (error instanceof Cancelled) return;
  const fault = faultOf(error),
    failure = asFailure(error);
  if (typeof failure.cause === 'string' && failure.cause !== '')
    journal('reader').warn(
      { file: file.id, code: failure.code, words: failure.cause },
      'a file ended its reading child',
    );
  const failed = (message: string) =>
    setFileState(database, file, { status: 'failed', message: withoutBroken(message) }, ['reading']);
  // Removed while it was being read: there is nothing left to say, and nobody to hear it.
  if (fault.kind === 'refused' && (await fileToRead(database, file.id).catch(() => file)) === null) return;
  if (fault.kind === 'refused')
    return void (await failed(
      `What was read of this file cannot be kept: ${fault.words}. Export the sheet again.`,
    ));
  const mayPass =
    fault.kind === 'away' ||
    failure.code === 'no-room' ||
    (failure.code === 'engine' && !(error instanceof ReadFailure));
  if (!mayPass)
    return void (await setFileState(
      database,
      file,
      {
        status: failure.code === 'password' || failure.code === 'units' ? failure.code : 'failed',
        message: withoutBroken(failure.message),
      },
      ['reading'],
    ));
  if (lastTry)
    return void (await failed(
      fault.kind === 'away'
        ? `Reading was broken off several times: ${fault.words} Have it read again.`
        : failure.message,
    ));
  // The database or the disk: leave the file waiting, the queue tries again.
  await setFileState(database, file, { status: 'waiting' }, ['reading']).catch(() => {});
  throw error;
}

const LONGEST_WORDS = 500;

/** The queue keeps and says what went wrong as text; a failed query names all that it was to write: passwords, words, bytes of pictures. */
function inWords(error: unknown): Error {
  const { kind, code } = faultOf(error);
  const isDatabase = kind !== 'other' || (code !== null && /^(?=.*\d)[0-9A-Z]{5}$/.test(code));
  if (isDatabase) return new Error(`The database did not do it (${code ?? 'no answer'}).`);
  return new Error(
    withoutBroken(error instanceof Error ? error.message : String(error))
      .split('\nparams:')[0]
      .slice(0, LONGEST_WORDS),
  );
}
