import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { escapeLiteral } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { ZipFile } from 'yazl';
import {
  PACKAGE_ENTRIES,
  packagedPath,
  PACKAGE_FORMAT,
  PACKAGE_VERSION,
  type Manifest,
} from '@calque/core/exchange';
import { FORM } from '@calque/core/formats';
import { onlyFields } from '../binary-copy.ts';
import { readBlob } from '../blobs.ts';
import type { Database } from '../database.ts';

/** Packs a project whole: entities, log and the files as they came, as they were at one moment. Passwords of protected files stay here. False where there is no such project. */
export async function packProject(
  database: Database,
  projectId: string,
  out: Writable,
  written: string,
): Promise<boolean> {
  const folder = await mkdtemp(join(tmpdir(), 'calque-pack-'));
  try {
    const taken = await takeDown(database, projectId, folder);
    if (!taken) return false;
    const zip = new ZipFile();
    const manifest: Manifest = {
      format: PACKAGE_FORMAT,
      version: PACKAGE_VERSION,
      form: FORM,
      written,
      files: taken.map(({ blobId: _, millimetresPerUnit, ...f }) => ({
        ...f,
        path: packagedPath(f.sha256),
        ...(millimetresPerUnit !== null && { millimetresPerUnit }),
      })),
    };
    zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), PACKAGE_ENTRIES.manifest);
    zip.addFile(join(folder, 'entities'), PACKAGE_ENTRIES.entities[PACKAGE_VERSION]);
    zip.addFile(join(folder, 'log'), PACKAGE_ENTRIES.log[PACKAGE_VERSION]);
    // The same bytes attached twice are packed once; they are compressed already.
    for (const f of new Map(taken.map((t) => [t.sha256, t])).values()) {
      zip.addReadStreamLazy(packagedPath(f.sha256), { compress: false, size: f.bytes }, (begin) =>
        begin(null, Readable.from(readBlob(database, f.blobId))),
      );
    }
    zip.end();
    await pipeline(zip.outputStream, out);
    return true;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Writes entities and steps as lines into a folder, all as they are at one moment, so that no connection is held while a package is taken; gives the files. */
async function takeDown(database: Database, projectId: string, folder: string): Promise<TakenFile[] | null> {
  const client = await database.$client.connect();
  let whole = false;
  try {
    await client.query('begin isolation level repeatable read read only');
    const { rowCount } = await client.query('select 1 from projects where id = $1 and deleted is null', [
      projectId,
    ]);
    const lines = async (select: string, name: string) => {
      const rows = client.query(copyTo(`copy (${select}) to stdout (format binary)`));
      await pipeline(onlyFields(rows as AsyncIterable<Buffer>), createWriteStream(join(folder, name)));
    };
    const project = escapeLiteral(projectId);
    if (rowCount) {
      await lines(
        `select data::text || e'\\n' from entities where project_id = ${project} order by ordinal`,
        'entities',
      );
      await lines(
        `select left(json_build_object('id', id, 'seq', seq, 'label', label, 'kind', kind, 'of', "of")::text, -1) || ',"change":' || change::text || e'}\\n' from changes where project_id = ${project} order by seq`,
        'log',
      );
    }
    const files = await client.query<TakenFile>(
      `select f.id, f.name, f.blob_id as "blobId", b.sha256, b.size::float8 as bytes, f.millimetres_per_unit as "millimetresPerUnit"
      from files f join blobs b on b.id = f.blob_id where f.project_id = $1 order by f.created`,
      [projectId],
    );
    await client.query('commit');
    whole = true;
    return rowCount ? files.rows : null;
  } finally {
    client.release(!whole);
  }
}

interface TakenFile {
  id: string;
  name: string;
  blobId: string;
  sha256: string;
  bytes: number;
  millimetresPerUnit: number | null;
}
