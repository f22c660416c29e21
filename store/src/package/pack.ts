import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { ZipFile } from 'yazl';
import { PACKAGE_ENTRIES, packagedPath, PACKAGE_FORMAT, PACKAGE_VERSION, type Manifest } from '@calque/core/exchange';
import { readBlob } from '../blobs.ts';
import type { Database, Transaction } from '../database.ts';
import { blobs, changes, entities, files, projects } from '../schema.ts';

/** Rows fetched at once. */
const ENTITIES_AT_ONCE = 5000, STEPS_AT_ONCE = 50;

/** Packs a project whole: entities, log and the files as they came, as they were at one moment. False where there is no such project. */
export async function packProject(database: Database, projectId: string, out: Writable, written: string): Promise<boolean> {
  const folder = await mkdtemp(join(tmpdir(), 'calque-pack-'));
  try {
    const taken = await database.transaction((tx) => takeDown(tx, projectId, folder), { isolationLevel: 'repeatable read', accessMode: 'read only' });
    if (!taken) return false;
    const zip = new ZipFile();
    const manifest: Manifest = {
      format: PACKAGE_FORMAT, version: PACKAGE_VERSION, written,
      files: taken.map(({ blobId: _, millimetresPerUnit, password, ...f }) => ({ ...f, path: packagedPath(f.sha256), ...(millimetresPerUnit !== null && { millimetresPerUnit }), ...(password !== null && { password }) })),
    };
    zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), PACKAGE_ENTRIES.manifest);
    zip.addFile(join(folder, 'entities'), PACKAGE_ENTRIES.entities[2]);
    zip.addFile(join(folder, 'log'), PACKAGE_ENTRIES.log[2]);
    // The same bytes attached twice are packed once; they are compressed already.
    for (const f of new Map(taken.map((t) => [t.sha256, t])).values()) {
      zip.addReadStreamLazy(packagedPath(f.sha256), { compress: false, size: f.bytes }, (begin) => begin(null, Readable.from(readBlob(database, f.blobId))));
    }
    zip.end();
    await pipeline(zip.outputStream, out);
    return true;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Writes entities and steps as lines into a folder, so that no connection is held while a package is taken; gives the files. */
async function takeDown(tx: Transaction, projectId: string, folder: string) {
  const [project] = await tx.select({ seq: projects.seq }).from(projects).where(and(eq(projects.id, projectId), isNull(projects.deleted)));
  if (!project) return null;
  await pipeline(Readable.from(entityLines(tx, projectId)), createWriteStream(join(folder, 'entities')));
  await pipeline(Readable.from(stepLines(tx, projectId)), createWriteStream(join(folder, 'log')));
  return (await tx.select({ id: files.id, name: files.name, blobId: files.blobId, sha256: blobs.sha256, bytes: blobs.size, millimetresPerUnit: files.millimetresPerUnit, password: files.password })
    .from(files).innerJoin(blobs, eq(blobs.id, files.blobId)).where(eq(files.projectId, projectId)).orderBy(asc(files.created))).map((f) => ({ ...f, sha256: f.sha256! }));
}

async function* entityLines(tx: Transaction, projectId: string): AsyncGenerator<string> {
  for (let after = 0; ;) {
    const rows = await tx.select({ text: sql<string>`${entities.data}::text`, ordinal: entities.ordinal }).from(entities)
      .where(and(eq(entities.projectId, projectId), sql`${entities.ordinal} > ${after}`)).orderBy(asc(entities.ordinal)).limit(ENTITIES_AT_ONCE);
    if (rows.length === 0) return;
    yield rows.map((r) => `${r.text}\n`).join('');
    after = rows.at(-1)!.ordinal;
  }
}

async function* stepLines(tx: Transaction, projectId: string): AsyncGenerator<string> {
  for (let after = 0; ;) {
    const rows = await tx.select({ id: changes.id, seq: changes.seq, label: changes.label, kind: changes.kind, of: changes.of, text: sql<string>`${changes.change}::text` }).from(changes)
      .where(and(eq(changes.projectId, projectId), sql`${changes.seq} > ${after}`)).orderBy(asc(changes.seq)).limit(STEPS_AT_ONCE);
    if (rows.length === 0) return;
    for (const { text, ...head } of rows) yield `${JSON.stringify(head).slice(0, -1)},"change":${text}}\n`;
    after = rows.at(-1)!.seq;
  }
}
