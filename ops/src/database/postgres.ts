import { spawn } from 'node:child_process';
import { chmodSync, chownSync, existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { atEnd, atLast, Ending, isEnding } from '../ending.ts';
import { dataFolder, isRoot, makeFolder } from '../identity.ts';
import { succeeds } from '../shell.ts';
import type { PartState } from '../supervise.ts';
import {
  asDatabaseUser,
  binariesFor,
  databaseUser,
  installed,
  SURROUNDINGS,
  versionOf,
  type Binaries,
} from './binaries.ts';
import { makeCluster, readyCluster } from './cluster.ts';
import { keysExist, keysOf, type Keys } from './keys.ts';
import { APP, makeRoles, OWNER, urlOf } from './roles.ts';

export interface RunningDatabase {
  /** Of the role that reads and writes rows. */
  url: string;
  /** Of the role that owns the tables; for migrations. */
  ownerUrl: string;
  keys: Keys;
  binaries: Binaries;
  stop(): Promise<void>;
  /** Kills it as a power cut would. */
  kill(): void;
}

/** Starts the project's own PostgreSQL, making it first where it does not exist yet. */
export async function startPostgres(
  name: string,
  onState: (state: PartState) => void = () => {},
): Promise<RunningDatabase> {
  if (installed().length === 0)
    throw new Error('PostgreSQL is missing from this machine: ./calque start installs it.');
  const folder = dataFolder(name),
    data = join(folder, 'postgres');
  makeFolder(folder, 0o755);
  // An earlier version gave the whole folder to the database's user.
  if (isRoot() && statSync(folder).uid !== 0) chownSync(folder, 0, 0);
  chmodSync(folder, 0o711);
  const binaries = binariesFor(data),
    bin = binaries.folder,
    pgctl = join(bin, 'pg_ctl');
  const unknown = !keysExist(folder),
    keys = keysOf(folder);
  if (versionOf(data) === null) await makeCluster(binaries, data, keys);
  let running = await runningPort(data, pgctl);
  // A server that was just killed hard is still named in its pid file for a moment: believe what answers.
  for (let i = 0; running !== null && i < TRIES && !answers(bin, running); i++) {
    await new Promise((resolve) => setTimeout(resolve, 500));
    running = await runningPort(data, pgctl);
  }
  if (running !== null && unknown) {
    await stopCluster(pgctl, data);
    running = null;
  }
  const port = running ?? (await freePort()),
    isNew = running === null;
  const starting = isNew
    ? readyCluster(binaries, data, keys, unknown).then(() => startCluster(binaries, data, port))
    : Promise.resolve();
  let stopping: Promise<void> | null = null,
    watching: ReturnType<typeof watch> | null = null;
  // What is just being started is stopped when it is there.
  const stop = () =>
    (stopping ??= starting
      .catch(() => {})
      .then(() => watching?.stop())
      .then(() => stopCluster(pgctl, data))
      .finally(() => {
        mine();
        off();
      }));
  // Until it is handed over, whoever starts it stops it. SIGINT asks the server to stop in order and at once (PostgreSQL documentation, "Shutting Down the Server").
  const mine = atEnd(stop),
    off = atLast(() => signalQuietly(pidOf(data), 'SIGINT'));
  try {
    await starting;
    if (isEnding()) throw new Ending();
    await makeRoles(port, keys);
  } catch (error) {
    await stop();
    throw error;
  }
  mine();
  watching = watch(binaries, data, port, onState);
  return {
    url: urlOf(APP, keys.app, port),
    ownerUrl: urlOf(OWNER, keys.owner, port),
    keys,
    binaries,
    stop,
    kill: () => signalQuietly(pidOf(data), 'SIGKILL'),
  };
}

async function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

/** How often it is looked whether the database still runs; a start that failed is tried again after so long. */
const LOOK_MS = 500,
  AGAIN_MS = 1000;

/** Starts the database again whenever it has ended, on the same port. */
function watch(
  binaries: Binaries,
  data: string,
  port: number,
  onState: (state: PartState) => void,
): { stop(): Promise<void> } {
  const name = 'database';
  let stopped = false,
    failures = 0,
    timer: NodeJS.Timeout,
    looking: Promise<void> = Promise.resolve();
  const look = async () => {
    let pause = LOOK_MS;
    if (!isAlive(pidOf(data))) {
      onState({
        name,
        state: failures > 5 ? 'failing' : 'restarting',
        why: failures === 0 ? 'it ended' : lastWords(data),
      });
      const started = !stopped && (await start(binaries, data, port));
      failures = started ? 0 : failures + 1;
      if (started) onState({ name, state: 'running', why: null });
      else pause = AGAIN_MS;
    }
    if (!stopped) again(pause);
  };
  const again = (ms: number) => {
    timer = setTimeout(() => {
      looking = look();
    }, ms);
    timer.unref();
  };
  onState({ name, state: 'running', why: null });
  again(LOOK_MS);
  return {
    stop: () => {
      stopped = true;
      clearTimeout(timer);
      return looking;
    },
  };
}

/** The process of a database by its own file; null where it has none. */
function pidOf(data: string): number | null {
  try {
    return Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0]);
  } catch {
    return null;
  }
}

function signalQuietly(pid: number | null, signal: NodeJS.Signals): void {
  try {
    if (pid !== null) process.kill(pid, signal);
  } catch {
    // It has ended.
  }
}

/** Does a process run? One that has ended but is still listed does not (proc(5), stat: state Z). */
function isAlive(pid: number | null): boolean {
  if (pid === null) return false;
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2, stat.lastIndexOf(')') + 3) !== 'Z';
  } catch {
    return false;
  }
}

const LAST_WORDS = 300;
/** What the server says before its own journal stands; after that it writes a file for each day of the week. */
const FIRST_WORDS = 'start.log',
  JOURNAL = 'log';

function lastWords(data: string): string {
  try {
    const folder = join(data, JOURNAL);
    const files = [
      join(data, FIRST_WORDS),
      ...(existsSync(folder) ? readdirSync(folder).map((f) => join(folder, f)) : []),
    ].filter(existsSync);
    const latest = files.sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs)[0];
    return readFileSync(latest, 'utf8').trim().split('\n').slice(-3).join(' ').slice(-LAST_WORDS);
  } catch {
    return 'it does not start';
  }
}

const answers = (bin: string, port: number) =>
  succeeds(join(bin, 'pg_isready'), ['-q', '-h', '127.0.0.1', '-p', String(port)]);

/** Port of a server that already runs on this data (one that outlived a killed start). */
async function runningPort(data: string, pgctl: string): Promise<number | null> {
  try {
    await asDatabaseUser(pgctl, ['-D', data, 'status']);
    return Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[3]);
  } catch (error) {
    if ((error as Error).name === 'Ending') throw error;
    return null;
  }
}

const TRIES = 8;

/**
 * Loopback alone; more shared memory and log between checkpoints than PostgreSQL's own few, for steps of whole sheets; a journal that
 * repeats no values and is no larger than a week.
 */
const serverOptions = (port: number): string =>
  [
    `-p ${port}`,
    'listen_addresses=127.0.0.1',
    "unix_socket_directories=''",
    'password_encryption=scram-sha-256',
    'fsync=on',
    'shared_buffers=256MB',
    'max_wal_size=2GB',
    'wal_compression=lz4',
    'max_connections=120',
    'tcp_keepalives_idle=30',
    'log_error_verbosity=terse',
    'log_parameter_max_length=0',
    'log_parameter_max_length_on_error=0',
    'log_min_error_statement=panic',
    'logging_collector=on',
    `log_directory=${JOURNAL}`,
    'log_filename=%a.log',
    'log_truncate_on_rotation=on',
    'log_rotation_age=1d',
    'log_rotation_size=0',
  ]
    .map((option, i) => (i === 0 ? option : `-c ${option}`))
    .join(' ');

const START = (data: string, port: number) => [
  '-D',
  data,
  '-l',
  join(data, FIRST_WORDS),
  '-w',
  '-o',
  serverOptions(port),
  'start',
];

/** One start, also while this program ends; says whether it runs. Its own group outlives this program's signals, so that it is stopped in order. */
function start({ folder }: Binaries, data: string, port: number): Promise<boolean> {
  const user = databaseUser();
  return new Promise((resolve) => {
    spawn(join(folder, 'pg_ctl'), START(data, port), {
      stdio: 'ignore',
      cwd: '/',
      detached: true,
      env: SURROUNDINGS,
      ...(user && { uid: user.uid, gid: user.gid }),
    })
      .once('exit', (code) => resolve(code === 0))
      .once('error', () => resolve(false));
  });
}

async function startCluster(binaries: Binaries, data: string, port: number): Promise<void> {
  for (let i = 1; ; i++) {
    if (await start(binaries, data, port)) return;
    if (isEnding()) throw new Ending();
    // After a hard kill the old server needs a moment to let go.
    if (i === TRIES) throw new Error(`The database does not start: ${lastWords(data)}`);
    await new Promise((resolve) => setTimeout(resolve, 500 * i));
  }
}

/** Stops it in order, whoever else is still connected; within a moment, or as if its power were cut (nothing saved is lost by that). */
function stopCluster(pgctl: string, data: string): Promise<void> {
  const user = databaseUser();
  return new Promise((resolve) => {
    spawn(pgctl, ['-D', data, '-m', 'fast', '-w', '-t', '20', 'stop'], {
      stdio: 'ignore',
      cwd: '/',
      detached: true,
      ...(user && { uid: user.uid, gid: user.gid }),
    })
      .once('exit', () => resolve())
      .once('error', () => resolve());
  });
}
