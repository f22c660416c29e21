import { existsSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import type { Walls } from '@calque/limits';
import { migrateDatabase } from '@calque/store';
import { buildWeb } from './build-web.ts';
import { claim, mustBeFree, type Claim } from './claim.ts';
import { placedFor } from './confined.ts';
import { APP } from './database/roles.ts';
import { startPostgres, type RunningDatabase } from './database/postgres.ts';
import { atEnd, Ending, isEnding } from './ending.ts';
import { dataFolder, makeFolder, serviceUser } from './identity.ts';
import { JournalFile } from './journal-file.ts';
import { Parts } from './parts.ts';
import { mustRun, root, signalGroup } from './shell.ts';
import { StandIn } from './stand-in.ts';
import { supervise, type Supervised } from './supervise.ts';

/** What can be killed to see that it comes back. */
export type PartName = 'web server' | 'reader' | 'database';

export interface Serving {
  url: string;
  /** The database as the application sees it, and as the owner of its tables does. */
  databaseUrl: string;
  ownerUrl: string;
  /** Where its journal lies. */
  journal: string;
  /** Why web server and reader keep root's rights, where they do. */
  rights: string | null;
  /** What stands around what reads files; null where the reader has not said it yet. */
  walls(): Walls | null;
  /** Everything is stopped together. */
  stop(): Promise<void>;
  /** Kills a part as a power cut would; resolves when the whole answers again. */
  crash(part: PartName): Promise<void>;
  /** Resolves when the whole answers. */
  answers(): Promise<void>;
  /** Process ids of web server and reader. */
  processes(): number[];
}

const LOWEST_FREE_PORT = 1024;

/** Starts database, reader and web server, and keeps them running until they are stopped or this program ends. */
export async function serve(
  name: string,
  port: number,
  demo: boolean,
  more: NodeJS.ProcessEnv | Record<string, string> = {},
): Promise<Serving> {
  const folder = dataFolder(name);
  // Asked before the database is touched: stopping this one would stop it under the other.
  const early = existsSync(folder) ? claim(folder) : null;
  let held: Claim | null = early;
  let database: RunningDatabase | null = null,
    journal: JournalFile | null = null;
  const parts: Supervised[] = [],
    atStop: (() => void)[] = [];
  let stopping: Promise<void> | null = null;
  const stop = () =>
    (stopping ??= (async () => {
      // The database last: a part whose database goes complains of that, and not of what is wrong.
      await Promise.all(parts.map((p) => p.stop()));
      await database?.stop();
      atStop.forEach((act) => act());
      await journal?.close();
      held?.release();
      off();
    })());
  const off = atEnd(stop);
  const unlessEnding = () => {
    if (isEnding()) throw new Ending();
  };
  try {
    // What a killed one left ends by itself; it may need a moment to let go of the port.
    await mustBeFree(port, early?.tookOver ?? false);
    const user = serviceUser();
    const states = new Parts(join(folder, 'parts.json'));
    database = await startPostgres(name, states.tell);
    unlessEnding();
    held ??= claim(folder);
    const kept = join(folder, 'journal'),
      log = new JournalFile(kept);
    journal = log;
    // Nothing of what a killed one left there is of use.
    const temporary = join(folder, 'tmp');
    rmSync(temporary, { recursive: true, force: true });
    makeFolder(temporary, 0o700, user);
    await migrateDatabase(database.ownerUrl, { root, app: APP });
    unlessEnding();
    await buildWeb();
    const placed = placedFor(user);
    const env = {
      ...ourSettings(),
      DATABASE_URL: database.url,
      CALQUE_SECRET: database.keys.secret,
      NODE_ENV: 'production' as const,
      CALQUE_ROOT: placed.root,
      CALQUE_PARTS: join(folder, 'parts.json'),
      CALQUE_DATA_FOLDER: folder,
      TMPDIR: temporary,
      ...more,
    };
    const program = (file: string, mayBind = false) => [
      ...placed.before(mayBind),
      process.execPath,
      join(placed.root, '.build', file),
    ];
    if (demo) {
      const [first, ...rest] = program('demo.mjs');
      await mustRun(first, rest, { env, quiet: true, cwd: '/' });
    }
    unlessEnding();
    const saying = (part: string) => ({ said: log.lines(part), complained: log.lines(part) });
    const told = (state: Parameters<typeof states.tell>[0]) => {
      states.tell(state);
      log.say(
        state.state === 'running' ? 'info' : 'error',
        `${state.name}: ${state.state}${state.why ? `, ${state.why}` : ''}`,
      );
    };
    let walls: Walls | null = null;
    const reader = supervise('reader', {
      command: program('reader-service.mjs'),
      env,
      cwd: placed.root === root ? root : '/',
      onState: told,
      journal: saying('reader'),
      onMessage: (message) => {
        walls = (message as { walls?: Walls }).walls ?? walls;
      },
    });
    const standIn = new StandIn(port, listensOn());
    const web = supervise('web server', {
      command: program('web-server.mjs', port < LOWEST_FREE_PORT),
      env: { ...env, PORT: String(port) },
      cwd: placed.root === root ? join(root, 'web') : '/',
      journal: saying('web'),
      onState: (state) => {
        told(state);
        if (state.state === 'failing') standIn.show(state.why ?? '');
        else standIn.hide();
      },
      beforeStart: () => standIn.hide(),
    });
    parts.push(web, reader);
    atStop.push(() => standIn.hide());
    const url = `http://${reachedAt()}:${port}`;
    await untilAnswers(port, () =>
      web.state.state === 'failing' ? `The web server does not start: ${web.state.why}` : null,
    );
    const crash = async (part: PartName) => {
      if (part === 'database') database!.kill();
      else {
        const { process: child } = part === 'reader' ? reader : web;
        if (child) signalGroup(child, 'SIGKILL');
      }
      await new Promise((resolve) => setTimeout(resolve, 50));
      await untilAnswers(port, () => null);
    };
    return {
      url,
      databaseUrl: database.url,
      ownerUrl: database.ownerUrl,
      journal: kept,
      rights: placed.why,
      walls: () => walls,
      crash,
      stop,
      answers: () => untilAnswers(port, () => null),
      processes: () => [web, reader].flatMap((p) => p.process?.pid ?? []),
    };
  } catch (error) {
    await stop();
    throw error;
  }
}

/** What of this program's surroundings its parts are told: where programs are, the language, and the settings of ours. */
function ourSettings(): Record<string, string> {
  const wanted = /^(PATH|LANG|LC_[A-Z]+|TZ|NODE_EXTRA_CA_CERTS|NEXT_TELEMETRY_DISABLED|CALQUE_[A-Z_]+)$/;
  return Object.fromEntries(
    Object.entries(process.env).filter((e): e is [string, string] => wanted.test(e[0]) && e[1] !== undefined),
  );
}

const STARTS_WITHIN_MS = 60000;

/** Where it listens, and where this machine reaches that. */
const listensOn = (): string => process.env.CALQUE_LISTEN || '127.0.0.1';
const reachedAt = (): string => {
  const at = listensOn();
  return at === '0.0.0.0' ? '127.0.0.1' : at === '::' ? '[::1]' : at.includes(':') ? `[${at}]` : at;
};

/** Does it say that it works? Asked under a name that is always allowed, wherever it listens. */
function isWell(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const asked = request(
      {
        host: reachedAt().replace(/^\[|\]$/g, ''),
        port,
        path: '/api/health',
        headers: { host: '127.0.0.1' },
        timeout: ANSWERS_WITHIN_MS,
      },
      (response) => {
        response.resume();
        resolve(response.statusCode === 200);
      },
    );
    asked
      .on('error', () => resolve(false))
      .on('timeout', () => asked.destroy())
      .end();
  });
}
const ANSWERS_WITHIN_MS = 5000;

async function untilAnswers(port: number, failure: () => string | null): Promise<void> {
  const began = Date.now();
  while (Date.now() - began < STARTS_WITHIN_MS) {
    if (isEnding()) throw new Ending();
    if (await isWell(port)) return;
    const why = failure();
    if (why) throw new Error(why);
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  throw new Error(`The web server did not answer within ${STARTS_WITHIN_MS / 1000} s.`);
}
