import 'server-only';
import { soundName } from '@calque/core/texts';
import { listFiles, readBlob, type Database } from '@calque/store';
import type { FileInfo } from '@/project/wire';
import { takenStream } from './byte-stream';

const LONGEST_NAME = 190;

/** A file's name is shown and never a path: folders are taken off, what is no character is replaced. */
export function shownName(name: string): string {
  const last = name.split(/[/\\]/).pop()!;
  const sound = soundName(last, LONGEST_NAME, 'unnamed');
  return sound === '.' || sound === '..' ? 'unnamed' : sound;
}

export async function fileInfos(database: Database, projectId: string): Promise<FileInfo[]> {
  return (await listFiles(database, projectId)).map((f) => ({
    id: f.id,
    name: f.name,
    kind: f.kind,
    status: f.status,
    message: f.message,
    pages: f.pages,
    pagesRead: f.pagesRead,
    encrypted: f.encrypted,
    repaired: f.repaired,
    opened: f.password !== null,
    layered: f.drawingBlobId !== null,
    sheets: f.sheets,
  }));
}

/** A blob as a response body; no connection to the database is held while it is taken. */
export const blobStream = (database: Database, blobId: string): ReadableStream<Uint8Array> =>
  takenStream(readBlob(database, blobId));

/** A Content-Disposition that saves under a name (RFC 6266, RFC 8187). */
export const asAttachment = (name: string): string =>
  `attachment; filename*=UTF-8''${encodeURIComponent(name).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`)}`;
