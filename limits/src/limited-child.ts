import { spawn, type ChildProcess, type Serializable, type StdioOptions } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { wallsAround, withFilterFile, type Seen } from './walls.ts';

export interface ChildLimits {
  /** Heap of JavaScript values, megabytes. */
  heapMegabytes: number;
  /** All memory of the process that it may write to, megabytes: held by the operating system. */
  megabytes: number;
  /** Its whole time, seconds. */
  seconds: number;
  /** How far it stands back behind others: 0 not at all, 19 most. */
  nice?: number;
}

export interface LimitedOptions {
  args?: readonly string[];
  env?: Record<string, string | undefined>;
  /** Input, output, errors and the channel. */
  stdio?: ['ignore', 'ignore' | 'pipe', 'ignore' | 'inherit' | 'pipe', 'ipc'];
  /** How messages are carried: 'advanced' takes typed arrays. */
  serialization?: 'json' | 'advanced';
  /** Of the files it sees only these, and of the network nothing, as far as the system allows. Without: it sees what this process does. */
  walls?: Omit<Seen, 'program'>;
}

/** Why a child was ended by us: it took too long, or more memory than it may. */
export type Overrun = 'too-long' | 'too-large';

export interface LimitedChild {
  process: ChildProcess;
  /** What it overran, once it was ended for that. */
  overrun(): Overrun | null;
  kill(): void;
  /** Its time begins anew, for one that waited until it was needed: so many seconds from now. */
  allow(seconds: number): void;
  send(message: Serializable): void;
}

/** What a child is told unless more is said: where programs are, and nothing of this process's secrets. */
const SURROUNDINGS = {
  PATH: process.env.PATH,
  LANG: process.env.LANG,
  TZ: process.env.TZ,
  NODE_ENV: 'production',
};

/** From util-linux, which every Debian has. */
const SETPRIV = '/usr/bin/setpriv',
  PRLIMIT = '/usr/bin/prlimit';
/** How often its memory is looked at, where the system's own limit does not stop it first. */
const LOOK_EVERY_MS = 250;

/**
 * Starts a program of ours in a process that cannot outlive this one and is held within limits: its writable memory by
 * the operating system (RLIMIT_DATA, which counts what is really mapped for writing and not what WebAssembly only
 * reserves), its time by a timer. It may be ended at any moment, so it must keep nothing that others need.
 */
export function limitedChild(
  program: string,
  limits: ChildLimits,
  {
    args = [],
    env = SURROUNDINGS,
    stdio = ['ignore', 'ignore', 'inherit', 'ipc'],
    serialization = 'json',
    walls,
  }: LimitedOptions = {},
): LimitedChild {
  const node = [process.execPath, `--max-old-space-size=${limits.heapMegabytes}`, program, ...args];
  const bytes = Math.round(limits.megabytes * 1024 * 1024);
  const command = [
    ...(existsSync(SETPRIV) ? [SETPRIV, '--pdeathsig', 'KILL', '--'] : []),
    ...(walls ? wallsAround({ ...walls, program }) : []),
    ...(existsSync(PRLIMIT) ? [PRLIMIT, `--data=${bytes}:${bytes}`, '--core=0', '--'] : []),
    ...node,
  ];
  const begin = (more: readonly (number | 'ignore')[]): ChildProcess =>
    spawn(command[0], command.slice(1), {
      env: env as NodeJS.ProcessEnv,
      stdio: [...stdio, ...more] as StdioOptions,
      serialization,
    });
  const child = walls ? withFilterFile((filter) => begin([filter ?? 'ignore'])) : begin([]);
  let overrun: Overrun | null = null;
  const end = (why: Overrun) => {
    overrun ??= why;
    child.kill('SIGKILL');
  };
  let timer = setTimeout(() => end('too-long'), limits.seconds * 1000);
  const look = setInterval(() => {
    if (
      child.pid !== undefined &&
      withDescendants(child.pid).reduce((sum, pid) => sum + residentBytes(pid), 0) > bytes
    )
      end('too-large');
  }, LOOK_EVERY_MS);
  const settled = () => {
    clearTimeout(timer);
    clearInterval(look);
  };
  child.once('exit', settled);
  child.once('error', settled);
  if (limits.nice && child.pid !== undefined) standBack(child.pid, limits.nice);
  return {
    process: child,
    overrun: () => overrun,
    kill: () => void child.kill('SIGKILL'),
    allow: (seconds) => {
      clearTimeout(timer);
      timer = setTimeout(() => end('too-long'), seconds * 1000);
    },
    // One that has just ended is heard of by its exit.
    send: (message) => void (child.connected && child.send(message, () => {})),
  };
}

/** Lets others go first; a process that has ended already is let be. */
export function standBack(pid: number, nice: number): void {
  for (const each of withDescendants(pid)) {
    try {
      setPriority(each, nice);
    } catch {
      // It has ended.
    }
  }
}

/** A process and those that it started, in their turn: walls are built by one that stays beside (proc(5), children). */
function withDescendants(pid: number): number[] {
  try {
    const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim();
    return [pid, ...(children === '' ? [] : children.split(' ').flatMap((c) => withDescendants(Number(c))))];
  } catch {
    return [pid];
  }
}

/** Memory that a process holds, bytes (proc(5), statm in pages of 4 KiB); 0 where that cannot be told. */
function residentBytes(pid: number): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    return 0;
  }
}
