import 'server-only';
import { listFiles, readBlob, type Database } from '@calque/store';
import type { FileInfo } from '@/project/wire';

const LONGEST_NAME = 200;

/** A file's name is shown and never a path: folders and control characters are taken off. */
export function shownName(name: string): string {
   
  const last = name.split(/[/\\]/).pop()!.replace(/[\u0000-\u001f\u007f]/g, '').trim();
  return last === '' || last === '.' || last === '..' ? 'unnamed' : last.slice(0, LONGEST_NAME);
}

export async function fileInfos(database: Database, projectId: string): Promise<FileInfo[]> {
  return (await listFiles(database, projectId)).map((f) => ({
    id: f.id, name: f.name, kind: f.kind, status: f.status, message: f.message, pages: f.pages, pagesRead: f.pagesRead,
    encrypted: f.encrypted, repaired: f.repaired, password: f.password, layered: f.drawingBlobId !== null, sheets: f.sheets,
  }));
}

/** A blob as a response body that is read as fast as it is taken. */
export function blobStream(database: Database, blobId: string): ReadableStream<Uint8Array> {
  const chunks = readBlob(database, blobId);
  return new ReadableStream({
    async pull(controller) {
      const { value, done } = await chunks.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await chunks.return(undefined);
    },
  });
}

/** Largest upload, bytes; CALQUE_MAX_UPLOAD_MB sets another. */
export function uploadLimit(): number {
  const mb = Number(process.env.CALQUE_MAX_UPLOAD_MB);
  return (Number.isFinite(mb) && mb > 0 ? mb : 1024) * 1e6;
}
