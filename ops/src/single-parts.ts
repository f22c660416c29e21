import { spawn } from 'node:child_process';
import { migrateDatabase } from '@calque/store';
import { buildWeb } from './build-web.ts';
import { placedFor } from './confined.ts';
import { endAll } from './ending.ts';
import { serviceUser } from './identity.ts';
import { endsWithUs, root } from './shell.ts';
import { allowedHosts } from './web/door.ts';
import { join } from 'node:path';

const needs = (name: string, what: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set: ${what} (docs/operating.md, "Several machines").`);
  return value;
};

/** One part alone, in the foreground, for whoever supervises by other means; it writes its journal to standard output. */
async function part(program: string, env: Record<string, string>, mayBind = false): Promise<void> {
  needs('DATABASE_URL', 'the database that all web servers and readers share');
  if (!process.env.CALQUE_SECRET_FILE)
    needs(
      'CALQUE_SECRET',
      'the key of kept passwords, at least 32 characters of chance, the same for all web servers and readers; or CALQUE_SECRET_FILE, a file that holds it',
    );
  const placed = placedFor(serviceUser());
  const [first, ...rest] = [
    ...placed.before(mayBind),
    process.execPath,
    join(placed.root, '.build', program),
  ];
  const child = spawn(first, rest, {
    cwd: placed.root === root ? root : '/',
    env: { ...process.env, ...env, NODE_ENV: 'production', CALQUE_ROOT: placed.root },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    detached: true,
  });
  endsWithUs(child);
  const status = await new Promise<number>((resolve) =>
    child.once('exit', (code) => resolve(code ?? 1)).once('error', () => resolve(1)),
  );
  await endAll(status);
}

const LOWEST_FREE_PORT = 1024;

/** `./calque web`: a web server on PORT, for the database of DATABASE_URL. */
export async function web(): Promise<void> {
  const port = Number(process.env.PORT ?? 4400);
  allowedHosts(process.env.CALQUE_HOSTS);
  await buildWeb();
  await part('web-server.mjs', { PORT: String(port) }, port < LOWEST_FREE_PORT);
}

/** `./calque reader`: a reader for the database of DATABASE_URL. */
export const reader = (): Promise<void> => part('reader-service.mjs', {});

/** `./calque migrate`: brings the tables of MIGRATION_DATABASE_URL (their owner's) up to date, and lets the role of DATABASE_URL work with them. */
export async function migrate(): Promise<void> {
  const app = new URL(needs('DATABASE_URL', 'the database as web servers and readers reach it')).username;
  const owner = process.env.MIGRATION_DATABASE_URL ?? process.env.DATABASE_URL!;
  await migrateDatabase(owner, {
    root,
    ...(new URL(owner).username !== app && { app: decodeURIComponent(app) }),
  });
  console.log('The tables are those of this version.');
}
