import { randomUUID } from 'node:crypto';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { tell } from './notices.ts';
import { files, sheets, type FileStatus } from './schema.ts';

export const READ_TASK = 'read-file';

export type FileRow = typeof files.$inferSelect;
export type SheetRow = typeof sheets.$inferSelect;
export type SheetFacts = Omit<SheetRow, 'picture' | 'lineworkBlobId'>;

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
export async function readAgain(database: Database, file: FileRow, password: string | null): Promise<void> {
  await database.transaction(async (tx) => {
    await tx.update(files).set({ status: 'waiting', message: null, password, pagesRead: 0 }).where(eq(files.id, file.id));
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
    leftOut: sheets.leftOut, layers: sheets.layers, scaleNotes: sheets.scaleNotes, milliseconds: sheets.milliseconds,
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

/** Removes a file that no underlay uses; the caller has checked. */
export async function removeFile(database: Database, file: FileRow): Promise<void> {
  await database.delete(files).where(eq(files.id, file.id));
  await tell(database, { projectId: file.projectId, what: 'files' });
}
