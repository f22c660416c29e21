import { spawn } from 'node:child_process';
import { chmodSync, chownSync, constants, existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import type { PartState } from './supervise.ts';
import { ensureDebian, mustRun, root, succeeds } from './shell.ts';

const VERSIONS = '/usr/lib/postgresql';
const DATABASE = 'calque';

function binaries(): string | null {
  if (!existsSync(VERSIONS)) return null;
  const found = readdirSync(VERSIONS).filter((v) => existsSync(join(VERSIONS, v, 'bin/initdb'))).sort((a, b) => Number(b) - Number(a));
  return found.length > 0 ? join(VERSIONS, found[0], 'bin') : null;
}

const isRoot = () => process.getuid?.() === 0;

/** PostgreSQL refuses to run as root: then its programs run as the user that Debian's package made. */
function asDatabaseUser(program: string, args: string[]): string {
  const [run, given] = asUser(program, args);
  return mustRun(run, given, { quiet: true, cwd: '/' });
}

const asUser = (program: string, args: string[]): [string, string[]] => (isRoot() ? ['runuser', ['-u', 'postgres', '--', program, ...args]] : [program, args]);

/** Can the database's user walk to the folder? A home folder is often closed to others. */
function reachable(folder: string): boolean {
  for (let at = folder; ; at = dirname(at)) {
    if (existsSync(at) && isRoot() && (statSync(at).mode & constants.X_OK) === 0) return false;
    if (at === dirname(at)) return true;
  }
}

/** The project's own data folder: beside the program, or under /var/lib where the database's user cannot reach that. */
export function dataFolder(name: string): string {
  const wished = process.env.CALQUE_DATA ?? join(root, '.data');
  if (!isRoot() || reachable(wished)) return join(wished, name);
  const tag = createHash('sha256').update(root).digest('hex').slice(0, 12);
  return join('/var/lib', `calque-${tag}`, name);
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

export interface RunningDatabase { url: string; stop(): void; /** Kills it as a power cut would. */ kill(): void }

/** Starts the project's own PostgreSQL, making it first where it does not exist yet. */
export async function startPostgres(name: string, onState: (state: PartState) => void = () => {}): Promise<RunningDatabase> {
  ensureDebian({ postgresql: () => binaries() !== null });
  const bin = binaries()!;
  const folder = dataFolder(name);
  const data = join(folder, 'postgres');
  if (!existsSync(join(data, 'PG_VERSION'))) makeCluster(bin, folder, data);
  const pgctl = join(bin, 'pg_ctl');
  let running = runningPort(data, pgctl);
  // A server that was just killed hard is still named in its pid file for a moment: believe what answers.
  for (let i = 0; running !== null && i < TRIES && !answers(bin, running); i++) {
    await new Promise((resolve) => setTimeout(resolve, 500));
    running = runningPort(data, pgctl);
  }
  const port = running ?? await freePort();
  if (running === null) await startCluster(pgctl, data, folder, port);
  const url = `postgres://calque@127.0.0.1:${port}/${DATABASE}`;
  const psql = (database: string, command: string) => mustRun(join(bin, 'psql'), ['-h', '127.0.0.1', '-p', String(port), '-U', 'calque', '-d', database, '-tAc', command], { quiet: true }).trim();
  if (psql('postgres', `select 1 from pg_database where datname = '${DATABASE}'`) !== '1') psql('postgres', `create database ${DATABASE}`);
  const watching = watch(bin, data, folder, port, onState);
  return {
    url,
    stop: () => {
      watching.stop();
      succeedsQuietly(() => asDatabaseUser(pgctl, ['-D', data, '-m', 'fast', '-w', 'stop']));
    },
    kill: () => void succeedsQuietly(() => process.kill(pidOf(data)!, 'SIGKILL')),
  };
}

/** How often it is looked whether the database still runs; a start that failed is tried again after so long. */
const LOOK_MS = 500, AGAIN_MS = 1000;

/** Starts the database again whenever it has ended, on the same port. */
function watch(bin: string, data: string, folder: string, port: number, onState: (state: PartState) => void): { stop(): void } {
  const name = 'database';
  let stopped = false, failures = 0, timer: NodeJS.Timeout;
  const look = async () => {
    let pause = LOOK_MS;
    if (!isAlive(pidOf(data))) {
      onState({ name, state: failures > 5 ? 'failing' : 'restarting', why: failures === 0 ? 'it ended' : lastWords(folder) });
      const [program, args] = asUser(join(bin, 'pg_ctl'), ['-D', data, '-l', join(folder, 'postgres.log'), '-w', '-o', serverOptions(port), 'start']);
      const started = !stopped && (await run(program, args));
      failures = started ? 0 : failures + 1;
      if (started) onState({ name, state: 'running', why: null });
      else pause = AGAIN_MS;
    }
    if (!stopped) timer = setTimeout(() => void look(), pause);
  };
  onState({ name, state: 'running', why: null });
  timer = setTimeout(() => void look(), LOOK_MS);
  timer.unref();
  return {
    stop: () => {
      stopped = true;
      clearTimeout(timer);
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
function lastWords(folder: string): string {
  try {
    return readFileSync(join(folder, 'postgres.log'), 'utf8').trim().split('\n').slice(-3).join(' ').slice(-LAST_WORDS);
  } catch {
    return 'it does not start';
  }
}

/** Runs a program to its end without keeping this one waiting. */
const run = (program: string, args: readonly string[]): Promise<boolean> =>
  new Promise((resolve) => spawn(program, args, { stdio: 'ignore', cwd: '/' }).once('exit', (code) => resolve(code === 0)).once('error', () => resolve(false)));

const answers = (bin: string, port: number) => succeeds(join(bin, 'pg_isready'), ['-q', '-h', '127.0.0.1', '-p', String(port)]);

function makeCluster(bin: string, folder: string, data: string): void {
  console.log('Making the database (once) …');
  mkdirSync(folder, { recursive: true });
  if (isRoot()) {
    const [uid, gid] = ['-u', '-g'].map((flag) => Number(mustRun('id', [flag, 'postgres'], { quiet: true }).trim()));
    chownSync(folder, uid, gid);
  }
  chmodSync(folder, 0o700);
  asDatabaseUser(join(bin, 'initdb'), ['-D', data, '-U', 'calque', '--auth=trust', '-E', 'UTF8', '--locale=C.UTF-8']);
}

/** Port of a server that already runs on this data (one that outlived a killed start). */
function runningPort(data: string, pgctl: string): number | null {
  try {
    asDatabaseUser(pgctl, ['-D', data, 'status']);
    return Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[3]);
  } catch {
    return null;
  }
}

const TRIES = 8;

/** Loopback alone; more shared memory and log between checkpoints than PostgreSQL's own few, for steps of whole sheets. */
const serverOptions = (port: number): string =>
  `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c fsync=on -c shared_buffers=256MB -c max_wal_size=2GB -c wal_compression=lz4 -c max_connections=120 -c tcp_keepalives_idle=30`;

async function startCluster(pgctl: string, data: string, folder: string, port: number): Promise<void> {
  for (let i = 1; ; i++) {
    try {
      asDatabaseUser(pgctl, ['-D', data, '-l', join(folder, 'postgres.log'), '-w', '-o', serverOptions(port), 'start']);
      return;
    } catch (error) {
      // After a hard kill the old server needs a moment to let go.
      if (i === TRIES) throw error;
      await new Promise((resolve) => setTimeout(resolve, 500 * i));
    }
  }
}

function succeedsQuietly(work: () => unknown): boolean {
  try {
    work();
    return true;
  } catch {
    return false;
  }
}
