import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { migrateDatabase } from '@calque/store';
import { buildWeb } from './build-web.ts';
import { claim, mustBeFree, type Claim } from './claim.ts';
import { Parts } from './parts.ts';
import { dataFolder, startPostgres, type RunningDatabase } from './postgres.ts';
import { mustRun, root } from './shell.ts';
import { StandIn } from './stand-in.ts';
import { signalGroup, supervise, type Supervised } from './supervise.ts';

/** What can be killed to see that it comes back. */
export type PartName = 'web server' | 'reader' | 'database';

export interface Serving {
  url: string;
  databaseUrl: string;
  /** Everything is stopped together. */
  stop(): Promise<void>;
  /** Kills a part as a power cut would; resolves when the whole answers again. */
  crash(part: PartName): Promise<void>;
  /** Resolves when the whole answers. */
  answers(): Promise<void>;
  /** Process ids of web server and reader. */
  processes(): number[];
}

/** Starts database, reader and web server, and keeps them running. */
export async function serve(name: string, port: number, demo: boolean, more: NodeJS.ProcessEnv | Record<string, string> = {}): Promise<Serving> {
  const folder = dataFolder(name);
  // Asked before the database is touched: stopping this one would stop it under the other.
  const early = existsSync(folder) ? claim(folder) : null;
  let held: Claim | null = early;
  let database: RunningDatabase | null = null;
  const parts: Supervised[] = [];
  const stop = async () => {
    await Promise.all(parts.map((p) => p.stop()));
    database?.stop();
    held?.release();
  };
  try {
    // What a killed one left ends by itself; it may need a moment to let go of the port.
    await mustBeFree(port, early?.tookOver ?? false);
    const states = new Parts(join(folder, 'parts.json'));
    database = await startPostgres(name, states.tell);
    held ??= claim(folder);
    await migrateDatabase(database.url, root);
    const env = { ...process.env, DATABASE_URL: database.url, NODE_ENV: 'production' as const, CALQUE_ROOT: root, CALQUE_PARTS: join(folder, 'parts.json'), CALQUE_DATA_FOLDER: folder, ...more };
    if (demo) mustRun(process.execPath, [join(root, '.build/demo.mjs')], { env });
    buildWeb();
    const program = (file: string) => [process.execPath, join(root, '.build', file)];
    const reader = supervise('reader', { command: program('reader-service.mjs'), env, cwd: root, onState: states.tell });
    const standIn = new StandIn(port);
    const web = supervise('web server', {
      command: program('web-server.mjs'), env: { ...env, PORT: String(port) }, cwd: join(root, 'web'),
      onState: (state) => {
        states.tell(state);
        if (state.state === 'failing') standIn.show(state.why ?? '');
        else standIn.hide();
      },
      beforeStart: () => standIn.hide(),
    });
    parts.push(web, reader);
    const url = `http://127.0.0.1:${port}`;
    await untilAnswers(url, () => (web.state.state === 'failing' ? `The web server does not start: ${web.state.why}` : null));
    const crash = async (part: PartName) => {
      if (part === 'database') database!.kill();
      else {
        const { process: child } = part === 'reader' ? reader : web;
        if (child) signalGroup(child, 'SIGKILL');
      }
      await new Promise((resolve) => setTimeout(resolve, 50));
      await untilAnswers(url, () => null);
    };
    return { url, databaseUrl: database.url, crash, stop, answers: () => untilAnswers(url, () => null), processes: () => parts.flatMap((p) => p.process?.pid ?? []) };
  } catch (error) {
    await stop();
    throw error;
  }
}

const STARTS_WITHIN_MS = 60000;

async function untilAnswers(url: string, failure: () => string | null): Promise<void> {
  const began = Date.now();
  while (Date.now() - began < STARTS_WITHIN_MS) {
    const ok = await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(5000) }).then((r) => r.ok, () => false);
    if (ok) return;
    const why = failure();
    if (why) throw new Error(why);
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  throw new Error(`The web server did not answer within ${STARTS_WITHIN_MS / 1000} s.`);
}
