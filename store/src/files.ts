import { randomUUID } from 'node:crypto';
import { and, asc, eq, ilike, inArray, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { tell } from './notices.ts';
import { blobs, files, pictureTiles, sheets, type FileStatus } from './schema.ts';

export const READ_TASK = 'read-file';

export type FileRow = typeof files.$inferSelect;
export type SheetRow = typeof sheets.$inferSelect;
export type SheetFacts = Omit<SheetRow, 'picture' | 'lineworkBlobId' | 'words'>;

/** Attaches a stored blob to a project and asks a reader to read it, in one transaction. */
export async function attachFile(database: Database, projectId: string, blobId: string, name: string, id: string = randomUUID(), password: string | null = null): Promise<string> {
  await database.transaction(async (tx) => {
    await tx.insert(files).values({ id, projectId, blobId, name, password });
    await tx.execute(sql`select graphile_worker.add_job(${READ_TASK}, ${JSON.stringify({ fileId: id })}::json, max_attempts := 3)`);
    await tell(tx, { projectId, what: 'files' });
  });
  return id;
}

/** Asks for a file to be read again: with a password, or after a failure. */
export async function readAgain(database: Database, file: FileRow, password: string | null, millimetresPerUnit: number | null = file.millimetresPerUnit): Promise<void> {
  await database.transaction(async (tx) => {
    await tx.update(files).set({ status: 'waiting', message: null, password, millimetresPerUnit, pagesRead: 0 }).where(eq(files.id, file.id));
    await tx.delete(sheets).where(eq(sheets.fileId, file.id));
    await tx.execute(sql`select graphile_worker.add_job(${READ_TASK}, ${JSON.stringify({ fileId: file.id })}::json, max_attempts := 3)`);
    await tell(tx, { projectId: file.projectId, what: 'files' });
  });
}

export async function findFile(database: Database, id: string): Promise<FileRow | null> {
  const [row] = await database.select().from(files).where(eq(files.id, id));
  return row ?? null;
}

export async function listFiles(database: Database, projectId: string): Promise<(FileRow & { sheets: SheetFacts[] })[]> {
  const rows = await database.select().from(files).where(eq(files.projectId, projectId)).orderBy(asc(files.created));
  if (rows.length === 0) return [];
  const pages = await database.select({
    fileId: sheets.fileId, page: sheets.page, width: sheets.width, height: sheets.height, content: sheets.content, counts: sheets.counts,
    leftOut: sheets.leftOut, layers: sheets.layers, scaleNotes: sheets.scaleNotes, milliseconds: sheets.milliseconds, title: sheets.title, hatches: sheets.hatches, dimensions: sheets.dimensions,
    markups: sheets.markups, reference: sheets.reference, unknown: sheets.unknown, pixels: sheets.pixels,
  }).from(sheets).where(inArray(sheets.fileId, rows.map((r) => r.id))).orderBy(asc(sheets.page));
  return rows.map((row) => ({ ...row, sheets: pages.filter((p) => p.fileId === row.id) }));
}

export async function findSheet(database: Database, fileId: string, page: number): Promise<SheetRow | null> {
  const [row] = await database.select().from(sheets).where(and(eq(sheets.fileId, fileId), eq(sheets.page, page)));
  return row ?? null;
}

export async function setFileState(database: Database, file: Pick<FileRow, 'id' | 'projectId'>, state: Partial<Omit<FileRow, 'id' | 'projectId'>>, only?: readonly FileStatus[]): Promise<boolean> {
  const where = only ? and(eq(files.id, file.id), inArray(files.status, [...only])) : eq(files.id, file.id);
  const rows = await database.update(files).set(state).where(where).returning({ id: files.id });
  if (rows.length > 0) await tell(database, { projectId: file.projectId, what: 'files' });
  return rows.length > 0;
}

export async function storeSheet(database: Database, sheet: SheetRow): Promise<void> {
  await database.insert(sheets).values(sheet).onConflictDoUpdate({ target: [sheets.fileId, sheets.page], set: sheet });
}

export async function storeTile(database: Database, tile: typeof pictureTiles.$inferInsert): Promise<void> {
  await database.insert(pictureTiles).values(tile).onConflictDoUpdate({ target: [pictureTiles.fileId, pictureTiles.page, pictureTiles.level, pictureTiles.column, pictureTiles.row], set: { bytes: tile.bytes } });
}

export async function findTile(database: Database, fileId: string, page: number, level: number, column: number, row: number): Promise<Uint8Array | null> {
  const [tile] = await database.select({ bytes: pictureTiles.bytes }).from(pictureTiles)
    .where(and(eq(pictureTiles.fileId, fileId), eq(pictureTiles.page, page), eq(pictureTiles.level, level), eq(pictureTiles.column, column), eq(pictureTiles.row, row)));
  return tile?.bytes ?? null;
}

/** Pages of a project's files on which all the words stand, whatever their case. */
export async function findPages(database: Database, projectId: string, words: readonly string[]): Promise<{ fileId: string; page: number }[]> {
  if (words.length === 0) return [];
  const holds = words.map((w) => ilike(sheets.words, `%${w.replace(/[\\%_]/g, (c) => `\\${c}`)}%`));
  return database.select({ fileId: sheets.fileId, page: sheets.page }).from(sheets).innerJoin(files, eq(files.id, sheets.fileId))
    .where(and(eq(files.projectId, projectId), ...holds)).orderBy(asc(files.created), asc(sheets.page));
}

/** A file of the project with the same bytes, if there is one. */
export async function sameFile(database: Database, projectId: string, sha256: string): Promise<FileRow | null> {
  const [row] = await database.select({ file: files }).from(files).innerJoin(blobs, eq(blobs.id, files.blobId)).where(and(eq(files.projectId, projectId), eq(blobs.sha256, sha256))).orderBy(asc(files.created));
  return row?.file ?? null;
}

/** Removes a file that no underlay uses; the caller has checked. */
export async function removeFile(database: Database, file: FileRow): Promise<void> {
  await database.delete(files).where(eq(files.id, file.id));
  await tell(database, { projectId: file.projectId, what: 'files' });
}
