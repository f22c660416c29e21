import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { migrateDatabase } from '@calque/store';
import { buildWeb } from './build-web.ts';
import { claim, mustBeFree } from './claim.ts';
import { dataFolder, startPostgres } from './postgres.ts';
import { mustRun, root } from './shell.ts';

export interface Serving { url: string; databaseUrl: string; stop(): Promise<void>; ended: Promise<string>; /** Kills the web server as a power cut would, and starts it again. */ crashWeb(): Promise<void> }

/** Starts database, reader and web server; everything is stopped together. */
export async function serve(name: string, port: number, demo: boolean): Promise<Serving> {
  await mustBeFree(port);
  const folder = dataFolder(name);
  // Asked before the database is touched: stopping this one would stop it under the other.
  const letGo = existsSync(folder) ? claim(folder) : null;
  const database = await startPostgres(name);
  const release = letGo ?? claim(folder);
  const stopDatabase = () => {
    database.stop();
    release();
  };
  const children: ChildProcess[] = [];
  try {
    await migrateDatabase(database.url, root);
    const env = { ...process.env, DATABASE_URL: database.url, NODE_ENV: 'production' as const };
    if (demo) mustRun(process.execPath, [join(root, '.build/demo.mjs')], { env });
    buildWeb();
    const reader = spawn(process.execPath, [join(root, '.build/reader-service.mjs')], { env, stdio: 'inherit', detached: true });
    const startWeb = () => spawn(process.execPath, [join(root, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(port)], {
      cwd: join(root, 'web'), env, stdio: ['ignore', 'ignore', 'inherit'], detached: true,
    });
    let web = startWeb();
    children.push(reader, web);
    const ended = Promise.race([['reader', reader] as const, ['web server', web] as const].map(([what, child]) =>
      new Promise<string>((resolve) => child.once('exit', () => resolve(what)))));
    const url = `http://127.0.0.1:${port}`;
    await Promise.race([untilAnswers(url), ended.then((what) => { throw new Error(`The ${what} ended while starting. Is port ${port} taken? PORT=4500 ./calque start uses another.`); })]);
    const crashWeb = async () => {
      const gone = new Promise((resolve) => web.once('exit', resolve));
      signal(web, 'SIGKILL');
      await gone;
      children.splice(children.indexOf(web), 1, web = startWeb());
      await untilAnswers(url);
    };
    return { url, databaseUrl: database.url, ended, crashWeb, stop: () => stopAll(children, stopDatabase) };
  } catch (error) {
    await stopAll(children, stopDatabase);
    throw error;
  }
}

const STARTS_WITHIN_MS = 60000;

async function untilAnswers(url: string): Promise<void> {
  const began = Date.now();
  while (Date.now() - began < STARTS_WITHIN_MS) {
    const ok = await fetch(`${url}/api/health`).then((r) => r.ok, () => false);
    if (ok) return;
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  throw new Error(`The web server did not answer within ${STARTS_WITHIN_MS / 1000} s.`);
}

const PATIENCE_MS = 4000;

async function stopAll(children: readonly ChildProcess[], stopDatabase: () => void): Promise<void> {
  await Promise.all(children.map((child) => new Promise<void>((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve();
    const timer = setTimeout(() => signal(child, 'SIGKILL'), PATIENCE_MS);
    child.once('exit', () => {
      clearTimeout(timer);
      resolve();
    });
    signal(child, 'SIGTERM');
  })));
  stopDatabase();
}

/** Signals the child's whole group, so that its own children end too. */
function signal(child: ChildProcess, name: NodeJS.Signals): void {
  try {
    process.kill(-child.pid!, name);
  } catch {
    child.kill(name);
  }
}
