import { randomUUID } from 'node:crypto';
import { isUuid } from '@calque/core/texts';
import { and, asc, eq, ilike, inArray, sql } from 'drizzle-orm';
import type { Database, Transaction } from './database.ts';
import { tell } from './notices.ts';
import { seal } from './secrets.ts';
import {
  blobs,
  entities,
  files,
  pictureTiles,
  projectPictures,
  projects,
  sheets,
  type FileStatus,
} from './schema.ts';

export const READ_TASK = 'read-file';

export type FileRow = typeof files.$inferSelect;
export type SheetRow = typeof sheets.$inferSelect;
export type SheetFacts = Omit<SheetRow, 'picture' | 'lineworkBlobId' | 'words'>;

export interface NewFile {
  id?: string;
  name: string;
  password?: string | null;
  millimetresPerUnit?: number | null;
}

/** Attaches a stored blob to a project and asks a reader to read it, in one transaction. */
export async function attachFile(
  database: Database,
  projectId: string,
  blobId: string,
  name: string,
  id: string = randomUUID(),
): Promise<string> {
  await database.transaction((tx) => attach(tx, projectId, blobId, { id, name }));
  return id;
}

/** As attachFile, within a transaction. */
export async function attach(
  tx: Transaction,
  projectId: string,
  blobId: string,
  { id = randomUUID(), name, password = null, millimetresPerUnit = null }: NewFile,
): Promise<string> {
  await tx
    .insert(files)
    .values({ id, projectId, blobId, name, password: password && seal(id, password), millimetresPerUnit });
  await askToRead(tx, { id, projectId });
  return id;
}

/** How many files of one project may be far ahead of another's: later ones all wait alike. */
const LAST_TURN = 1000;

/**
 * Puts a file into the queue. Projects take turns: a project's second file waits behind every other's first. Its jobs carry the
 * project's flag, so that a reader can leave places free for others.
 */
export async function askToRead(tx: Transaction, file: { id: string; projectId: string }): Promise<void> {
  await tx.execute(sql`select graphile_worker.add_job(${READ_TASK}, ${JSON.stringify({ fileId: file.id })}::json, max_attempts := 3,
    priority := (select least(count(*), ${LAST_TURN})::int from files where project_id = ${file.projectId} and status in ('waiting', 'reading') and id <> ${file.id}),
    flags := array[${projectFlag(file.projectId)}])`);
  await tell(tx, { projectId: file.projectId, what: 'files' });
}

export const projectFlag = (projectId: string): string => `project:${projectId}`;

/** Asks for a file to be read again: with a password, in other units, or after a failure; what is not said stays as it was. */
export async function readAgain(
  database: Database,
  file: FileRow,
  { password, millimetresPerUnit }: { password?: string; millimetresPerUnit?: number } = {},
): Promise<void> {
  await database.transaction(async (tx) => {
    await tx
      .update(files)
      .set({
        status: 'waiting',
        message: null,
        ...(password !== undefined && { password: seal(file.id, password) }),
        ...(millimetresPerUnit !== undefined && { millimetresPerUnit }),
        pagesRead: 0,
        attempts: 0,
        beat: null,
      })
      .where(eq(files.id, file.id));
    await tx.delete(sheets).where(eq(sheets.fileId, file.id));
    await askToRead(tx, file);
  });
}

/** A file of a project; one of another is not there. */
export async function findFile(database: Database, projectId: string, id: string): Promise<FileRow | null> {
  const [row] = await database
    .select()
    .from(files)
    .where(and(eq(files.id, id), eq(files.projectId, projectId)));
  return row ?? null;
}

/** A file that a reader is asked to read, whichever project it is of. */
export async function fileToRead(database: Database, id: string): Promise<FileRow | null> {
  const [row] = await database.select().from(files).where(eq(files.id, id));
  return row ?? null;
}

export async function listFiles(
  database: Database,
  projectId: string,
): Promise<(FileRow & { sheets: SheetFacts[] })[]> {
  const rows = await database
    .select()
    .from(files)
    .where(eq(files.projectId, projectId))
    .orderBy(asc(files.created));
  if (rows.length === 0) return [];
  const pages = await database
    .select({
      fileId: sheets.fileId,
      page: sheets.page,
      width: sheets.width,
      height: sheets.height,
      content: sheets.content,
      counts: sheets.counts,
      leftOut: sheets.leftOut,
      layers: sheets.layers,
      scaleNotes: sheets.scaleNotes,
      milliseconds: sheets.milliseconds,
      title: sheets.title,
      hatches: sheets.hatches,
      dimensions: sheets.dimensions,
      markups: sheets.markups,
      reference: sheets.reference,
      unknown: sheets.unknown,
      whole: sheets.whole,
      pixels: sheets.pixels,
    })
    .from(sheets)
    .where(
      inArray(
        sheets.fileId,
        rows.map((r) => r.id),
      ),
    )
    .orderBy(asc(sheets.page));
  return rows.map((row) => ({ ...row, sheets: pages.filter((p) => p.fileId === row.id) }));
}

/** A page of a project's file; `fileId` may be what anybody wrote. */
export async function findSheet(
  database: Database,
  projectId: string,
  fileId: string,
  page: number,
): Promise<SheetRow | null> {
  if (!isUuid(fileId)) return null;
  const [row] = await database
    .select({ sheet: sheets })
    .from(sheets)
    .innerJoin(files, eq(files.id, sheets.fileId))
    .where(and(eq(files.projectId, projectId), eq(sheets.fileId, fileId), eq(sheets.page, page)));
  return row?.sheet ?? null;
}

export async function setFileState(
  database: Database,
  file: Pick<FileRow, 'id' | 'projectId'>,
  state: Partial<Omit<FileRow, 'id' | 'projectId'>>,
  only?: readonly FileStatus[],
): Promise<boolean> {
  const where = only ? and(eq(files.id, file.id), inArray(files.status, [...only])) : eq(files.id, file.id);
  const rows = await database.update(files).set(state).where(where).returning({ id: files.id });
  // The project's picture may show pages of it, though the project itself has not changed.
  if (rows.length > 0 && state.status === 'ready')
    await database.delete(projectPictures).where(eq(projectPictures.projectId, file.projectId));
  if (rows.length > 0) await tell(database, { projectId: file.projectId, what: 'files' });
  return rows.length > 0;
}

/** Stores a page that has been read. One whose lines came first takes the place of none that is whole already. */
export async function storeSheet(database: Database, sheet: SheetRow): Promise<void> {
  await database
    .insert(sheets)
    .values(sheet)
    .onConflictDoUpdate({
      target: [sheets.fileId, sheets.page],
      set: sheet,
      ...(sheet.whole === false && { setWhere: eq(sheets.whole, false) }),
    });
}

export async function storeTile(database: Database, tile: typeof pictureTiles.$inferInsert): Promise<void> {
  await database
    .insert(pictureTiles)
    .values(tile)
    .onConflictDoUpdate({
      target: [
        pictureTiles.fileId,
        pictureTiles.page,
        pictureTiles.level,
        pictureTiles.column,
        pictureTiles.row,
      ],
      set: { bytes: tile.bytes },
    });
}

export async function findTile(
  database: Database,
  fileId: string,
  page: number,
  level: number,
  column: number,
  row: number,
): Promise<Uint8Array | null> {
  const [tile] = await database
    .select({ bytes: pictureTiles.bytes })
    .from(pictureTiles)
    .where(
      and(
        eq(pictureTiles.fileId, fileId),
        eq(pictureTiles.page, page),
        eq(pictureTiles.level, level),
        eq(pictureTiles.column, column),
        eq(pictureTiles.row, row),
      ),
    );
  return tile?.bytes ?? null;
}

/** Pages of a project's files on which all the words stand, whatever their case. */
export async function findPages(
  database: Database,
  projectId: string,
  words: readonly string[],
): Promise<{ fileId: string; page: number }[]> {
  if (words.length === 0) return [];
  const holds = words.map((w) => ilike(sheets.words, `%${w.replace(/[\\%_]/g, (c) => `\\${c}`)}%`));
  return database
    .select({ fileId: sheets.fileId, page: sheets.page })
    .from(sheets)
    .innerJoin(files, eq(files.id, sheets.fileId))
    .where(and(eq(files.projectId, projectId), ...holds))
    .orderBy(asc(files.created), asc(sheets.page));
}

/** A file of the project with the same bytes, if there is one. */
export async function sameFile(
  database: Database,
  projectId: string,
  sha256: string,
): Promise<FileRow | null> {
  const [row] = await database
    .select({ file: files })
    .from(files)
    .innerJoin(blobs, eq(blobs.id, files.blobId))
    .where(and(eq(files.projectId, projectId), eq(blobs.sha256, sha256)))
    .orderBy(asc(files.created));
  return row?.file ?? null;
}

/** Removes a file unless underlays use it; gives how many do. Nothing is laid from it meanwhile. */
export async function removeFile(database: Database, file: FileRow): Promise<number> {
  return database.transaction(async (tx) => {
    await tx.select({ id: projects.id }).from(projects).where(eq(projects.id, file.projectId)).for('update');
    const [{ used }] = await tx
      .select({ used: sql<string>`count(*)` })
      .from(entities)
      .where(
        and(
          eq(entities.projectId, file.projectId),
          inArray(entities.type, ['underlay', 'feature']),
          sql`${entities.data}->>'fileId' = ${file.id}`,
        ),
      );
    if (Number(used) > 0) return Number(used);
    await tx.delete(files).where(eq(files.id, file.id));
    await tell(tx, { projectId: file.projectId, what: 'files' });
    return 0;
  });
}

/** A file of which no reader has said for so long that it reads it is taken up again; this often, then it has failed. */
const SILENT_SECONDS = 20,
  MOST_ATTEMPTS = 3;

/**
 * Takes up what was left behind: files that a reader read when it ended, and those that wait though nothing in the queue
 * will read them. After a few times a file has failed, with the reason. Says how many were taken up or failed.
 */
export async function takeUpLeftFiles(database: Database): Promise<number> {
  return database.transaction(async (tx) => {
    const left = await tx.execute<{
      id: string;
      project_id: string;
      attempts: number;
    }>(sql`select f.id, f.project_id, f.attempts from files f
      where (f.status = 'reading' and coalesce(f.beat, f.created) < now() - make_interval(secs => ${SILENT_SECONDS}))
         or (f.status = 'waiting' and f.created < now() - make_interval(secs => ${SILENT_SECONDS}) and coalesce(f.beat, f.created) < now() - make_interval(secs => ${SILENT_SECONDS})
             and not exists (select 1 from graphile_worker.jobs j join graphile_worker._private_jobs p on p.id = j.id where p.payload->>'fileId' = f.id::text and j.attempts < j.max_attempts and j.locked_at is null))
      for update of f skip locked`);
    for (const { id, project_id: projectId, attempts } of left.rows) {
      if (attempts >= MOST_ATTEMPTS) {
        await tx
          .update(files)
          .set({
            status: 'failed',
            message: `Reading this file ended the reader ${MOST_ATTEMPTS} times. Export the sheet again with fewer objects, or split it.`,
          })
          .where(eq(files.id, id));
        await tell(tx, { projectId, what: 'files' });
        continue;
      }
      await tx
        .update(files)
        .set({ status: 'waiting', beat: sql`now()` })
        .where(eq(files.id, id));
      await askToRead(tx, { id, projectId });
    }
    return left.rows.length;
  });
}

/** Marks a file as being read by the one that asks; false where it is not to be read any more. */
export async function beginReading(
  database: Database,
  file: Pick<FileRow, 'id' | 'projectId'>,
): Promise<boolean> {
  const rows = await database
    .update(files)
    .set({ status: 'reading', message: null, beat: sql`now()`, attempts: sql`${files.attempts} + 1` })
    .where(and(eq(files.id, file.id), inArray(files.status, ['waiting', 'reading'])))
    .returning({ id: files.id });
  if (rows.length > 0) await tell(database, { projectId: file.projectId, what: 'files' });
  return rows.length > 0;
}

/** Says that a file is still being read. */
export async function beat(database: Database, fileId: string): Promise<void> {
  await database
    .update(files)
    .set({ beat: sql`now()` })
    .where(and(eq(files.id, fileId), eq(files.status, 'reading')));
}

/** How the queue stands, and how much the database holds. */
export async function queueFacts(
  database: Database,
): Promise<{ waiting: number; reading: number; oldestSeconds: number; bytes: number }> {
  const {
    rows: [row],
  } = await database.execute<
    Record<'waiting' | 'reading' | 'oldest' | 'bytes', string | null>
  >(sql`select count(*) filter (where status = 'waiting') as waiting, count(*) filter (where status = 'reading') as reading,
    extract(epoch from now() - min(created) filter (where status = 'waiting')) as oldest, pg_database_size(current_database()) as bytes from files where status in ('waiting', 'reading')`);
  return {
    waiting: Number(row.waiting),
    reading: Number(row.reading),
    oldestSeconds: Number(row.oldest ?? 0),
    bytes: Number(row.bytes),
  };
}
