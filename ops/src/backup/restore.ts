import { createHash } from 'node:crypto';
import { spawn } from 'node:child_process';
import { createWriteStream, existsSync, mkdtempSync, renameSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Readable } from 'node:stream';
import { text } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { openPromise, type Entry } from 'yauzl';
import { migrateDatabase } from '@calque/store';
import { claim } from '../claim.ts';
import { KEEPER } from '../database/cluster.ts';
import { keepKeys } from '../database/keys.ts';
import { startPostgres, type RunningDatabase } from '../database/postgres.ts';
import { APP, asking, DATABASE, OWNER, urlOf } from '../database/roles.ts';
import { atEnd, Ending, isEnding } from '../ending.ts';
import { dataFolder, makeFolder } from '../identity.ts';
import { endsWithUs, root } from '../shell.ts';
import { BACKUP_ENTRIES, parseBackup, type BackupManifest } from './manifest.ts';
import { INSTALLATION } from './place.ts';
import { portraitOf, portraitWords, sameInstallation } from './portrait.ts';

const MOST_MANIFEST = 1 << 20;

/** `./calque restore IN [--replace]`: puts a backup onto an empty installation, whole or not at all. */
export async function restore(args: readonly string[]): Promise<void> {
  const replace = args.includes('--replace'),
    [given, ...more] = args.filter((a) => a !== '--replace');
  if (!given || more.length > 0 || given.startsWith('-'))
    throw new Error(
      'Say which: ./calque restore FILE. With --replace, what is here now is put aside, and the backup in its place.',
    );
  const file = resolve(process.env.CALQUE_CWD ?? process.cwd(), given);
  if (!existsSync(file) || !statSync(file).isFile()) throw new Error(`There is no file ${file}.`);
  const folder = dataFolder(INSTALLATION),
    place = mkdtempSync(join(tmpdir(), 'calque-restore-'));
  const cleaning = atEnd(() => rmSync(place, { recursive: true, force: true }));
  try {
    // Looked at before anything that is here is touched.
    const manifest = await takeOut(file, place);
    const aside = await makeEmpty(folder, replace);
    try {
      await putBack(manifest, join(place, 'dump'), folder);
    } catch (error) {
      if (aside) {
        rmSync(folder, { recursive: true, force: true });
        renameSync(aside, folder);
      }
      throw error;
    }
    console.log(
      `Restored ${portraitWords(manifest.portrait)}, as they were on ${manifest.written}; all of it was compared. ./calque start starts it.${aside ? ` What was here before lies in ${aside}.` : ''}`,
    );
  } finally {
    cleaning();
    rmSync(place, { recursive: true, force: true });
  }
}

/** Takes the dump out of a backup and holds it against its checksum. */
async function takeOut(file: string, place: string): Promise<BackupManifest> {
  const none = () => new Error(`${file} is no backup of Calque, or it is damaged.`);
  const zip = await openPromise(file, { lazyEntries: true, autoClose: false }).catch(() => {
    throw none();
  });
  try {
    const entries = new Map<string, Entry>();
    for await (const entry of zip.eachEntry()) if (entries.size < 10) entries.set(entry.fileName, entry);
    const dump = entries.get(BACKUP_ENTRIES.dump),
      about = entries.get(BACKUP_ENTRIES.manifest);
    if (!dump || !about || about.uncompressedSize > MOST_MANIFEST) throw none();
    const manifest = parseBackup(await text(await zip.openReadStreamPromise(about)));
    const hash = createHash('sha256');
    await pipeline(
      (await zip.openReadStreamPromise(dump)) as Readable,
      async function* (source: AsyncIterable<Buffer>) {
        for await (const part of source) {
          hash.update(part);
          yield part;
        }
      },
      createWriteStream(join(place, 'dump'), { mode: 0o600 }),
    ).catch((error: NodeJS.ErrnoException) => {
      throw error.code === 'ENOSPC'
        ? new Error(
            `There is no room in ${tmpdir()} to unpack the backup. TMPDIR=FOLDER names another place.`,
          )
        : none();
    });
    if (hash.digest('hex') !== manifest.dump.sha256)
      throw new Error(
        `${file} is damaged: its contents are not those that were written. Take another backup.`,
      );
    return manifest;
  } finally {
    zip.close();
  }
}

/** An installation into which nothing was put yet; what is here is put aside where that is wished. Gives the place where it lies then. */
async function makeEmpty(folder: string, replace: boolean): Promise<string | null> {
  if (!existsSync(join(folder, 'postgres', 'PG_VERSION'))) return null;
  const held = claim(folder);
  if (replace) {
    held.release();
    const aside = `${folder}-before-${new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-')}`;
    renameSync(folder, aside);
    return aside;
  }
  const database = await startPostgres(INSTALLATION);
  try {
    const projects = await asking(database.ownerUrl, async (client) => {
      const {
        rows: [{ there }],
      } = await client.query<{ there: string | null }>(
        "select to_regclass('public.projects')::text as there",
      );
      return there === null
        ? 0
        : Number((await client.query<{ n: string }>('select count(*) as n from projects')).rows[0].n);
    });
    if (projects > 0)
      throw new Error(
        `There ${projects === 1 ? 'is a project' : `are ${projects} projects`} in ${folder} already, and a backup is a whole installation. ./calque restore FILE --replace puts what is here aside, unharmed, and the backup in its place; CALQUE_DATA=FOLDER restores into another place.`,
      );
    return null;
  } finally {
    await database.stop();
    held.release();
  }
}

async function putBack(manifest: BackupManifest, dump: string, folder: string): Promise<void> {
  makeFolder(folder, 0o755);
  const held = claim(folder);
  let database: RunningDatabase | null = null;
  const stop = async () => {
    await database?.stop();
    held.release();
    off();
  };
  const off = atEnd(stop);
  try {
    database = await startPostgres(INSTALLATION);
    const { keys, ownerUrl, binaries } = database,
      port = Number(new URL(ownerUrl).port);
    await asking(urlOf(KEEPER, keys.keeper, port, 'postgres'), async (client) => {
      await client.query(`drop database if exists ${DATABASE} with (force)`);
      await client.query(`create database ${DATABASE} owner ${OWNER}`);
      await client.query(`revoke all on database ${DATABASE} from public`);
      await client.query(`grant connect on database ${DATABASE} to ${APP}`);
    });
    await restoreDump(binaries.folder, ownerUrl, dump);
    const now = await asking(ownerUrl, portraitOf);
    if (!sameInstallation(now, manifest.portrait))
      throw new Error(
        'What was restored is not what was backed up. Nothing of it is kept; take another backup.',
      );
    keepKeys(folder, { ...keys, secret: manifest.secret });
    process.env.CALQUE_SECRET = manifest.secret;
    // A backup of an earlier version is brought up to this one.
    await migrateDatabase(ownerUrl, { root, app: APP });
  } finally {
    await stop();
  }
}

async function restoreDump(bin: string, url: string, dump: string): Promise<void> {
  if (isEnding()) throw new Ending();
  const { hostname, port, username, password, pathname } = new URL(url);
  const child = spawn(
    join(bin, 'pg_restore'),
    [
      '--exit-on-error',
      '--single-transaction',
      '--no-owner',
      '--no-privileges',
      '-h',
      hostname,
      '-p',
      port,
      '-U',
      username,
      '-d',
      pathname.slice(1),
      dump,
    ],
    {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: {
        PATH: process.env.PATH,
        LC_ALL: 'C.UTF-8',
        NODE_ENV: 'production',
        PGPASSWORD: decodeURIComponent(password),
      },
      detached: true,
    },
  );
  const off = endsWithUs(child);
  let words = '';
  child.stderr.on('data', (d: Buffer) => {
    words = (words + d.toString()).slice(-1500);
  });
  const status = await new Promise<number>((done) =>
    child
      .once('close', (code) => done(code ?? 1))
      .once('error', (error) => {
        words = error.message;
        done(1);
      }),
  );
  off();
  if (status !== 0)
    throw new Error(
      `The database did not take the backup; nothing of it is kept. What it said: ${words.trim()}`,
    );
}
