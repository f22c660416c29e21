import { createHash } from 'node:crypto';
import { spawn } from 'node:child_process';
import { createWriteStream, existsSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { PassThrough } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { ZipFile } from 'yazl';
import { atEnd } from '../ending.ts';
import { endGroup, endsWithUs } from '../shell.ts';
import { BACKUP_ENTRIES, BACKUP_FORMAT, BACKUP_VERSION, type BackupManifest } from './manifest.ts';
import { openInstallation } from './place.ts';
import { portraitOf, portraitWords } from './portrait.ts';

/** How often it is said how far it is. */
const SAY_MS = 2000;

/** `./calque backup OUT`: all projects, files and settings as they are at one moment, in one file, while it runs. */
export async function backup(args: readonly string[]): Promise<void> {
  const [given] = args;
  if (args.length !== 1 || given.startsWith('-'))
    throw new Error(
      "Say where to: ./calque backup FILE, or a folder, in which a file of today's date is made.",
    );
  const out = placeOf(given);
  const installation = await openInstallation();
  const client = new pg.Client({ connectionString: installation.ownerUrl });
  client.on('error', () => {});
  const partial = `${out}.partial`;
  const off = atEnd(() => rmSync(partial, { force: true }));
  try {
    await client.connect();
    // What is counted and what is written are the same moment.
    await client.query('begin isolation level repeatable read read only');
    const {
      rows: [{ snapshot }],
    } = await client.query<{ snapshot: string }>('select pg_export_snapshot() as snapshot');
    const portrait = await portraitOf(client);
    await write(partial, installation.bin, installation.ownerUrl, snapshot, (sha256) => ({
      format: BACKUP_FORMAT,
      version: BACKUP_VERSION,
      written: new Date().toISOString(),
      secret: installation.secret,
      portrait,
      dump: { sha256 },
    }));
    await client.query('commit');
    renameSync(partial, out);
    console.log(
      `Backed up ${portraitWords(portrait)} into ${out} (${Math.ceil(statSync(out).size / 1e6)} MB). It holds everything, the key of kept passwords too: keep it where only those may read it who may read all projects.`,
    );
  } catch (error) {
    rmSync(partial, { force: true });
    throw (error as NodeJS.ErrnoException).code === 'ENOSPC'
      ? new Error(`There is no room for the backup at ${out}. Nothing was left there.`)
      : error;
  } finally {
    off();
    await client.end().catch(() => {});
    await installation.close();
  }
}

function placeOf(given: string): string {
  const whole = resolve(process.env.CALQUE_CWD ?? process.cwd(), given);
  const out =
    existsSync(whole) && statSync(whole).isDirectory()
      ? join(whole, `calque-${new Date().toISOString().slice(0, 16).replace(/[:T]/g, '-')}.backup`)
      : whole;
  if (existsSync(out))
    throw new Error(
      `${out} is there already; a backup never writes over another file. Name one that is not there.`,
    );
  if (!existsSync(dirname(out))) throw new Error(`There is no folder ${dirname(out)}.`);
  return out;
}

/** The database's own dump, streamed into a zip with what is known of it. */
async function write(
  path: string,
  bin: string,
  url: string,
  snapshot: string,
  manifest: (sha256: string) => BackupManifest,
): Promise<void> {
  const { hostname, port, username, password, pathname } = new URL(url);
  // In custom form it can be restored by later versions of PostgreSQL too.
  const dump = spawn(
    join(bin, 'pg_dump'),
    [
      '--format=custom',
      '--compress=1',
      `--snapshot=${snapshot}`,
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
    ],
    {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        PATH: process.env.PATH,
        LC_ALL: 'C.UTF-8',
        NODE_ENV: 'production',
        PGPASSWORD: decodeURIComponent(password),
      },
      detached: true,
    },
  );
  const off = endsWithUs(dump);
  let words = '',
    bytes = 0;
  dump.stderr.on('data', (d: Buffer) => {
    words = (words + d.toString()).slice(-1000);
  });
  const status = new Promise<number>((done) =>
    dump
      .once('close', (code) => done(code ?? 1))
      .once('error', (error) => {
        words = error.message;
        done(1);
      }),
  );
  const hash = createHash('sha256'),
    counted = new PassThrough(),
    zip = new ZipFile();
  const saying = setInterval(() => console.log(`  ${Math.round(bytes / 1e6)} MB …`), SAY_MS);
  const all = pipeline(zip.outputStream, createWriteStream(path, { mode: 0o600 }));
  zip.addReadStream(counted, BACKUP_ENTRIES.dump, { compress: false });
  try {
    await Promise.race([
      all.then(() => {
        throw new Error('The backup ended too early.');
      }),
      pipeline(
        dump.stdout,
        async function* (source: AsyncIterable<Buffer>) {
          for await (const part of source) {
            hash.update(part);
            bytes += part.length;
            yield part;
          }
          if ((await status) !== 0)
            throw new Error(`The database could not be written down: ${words.trim()}`);
        },
        counted,
      ),
    ]);
    zip.addBuffer(
      Buffer.from(JSON.stringify(manifest(hash.digest('hex')), null, 1)),
      BACKUP_ENTRIES.manifest,
      { compress: false },
    );
    zip.end();
    await all;
  } finally {
    clearInterval(saying);
    off();
    void endGroup(dump);
    all.catch(() => {});
  }
}
