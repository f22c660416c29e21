import { spawn, type ChildProcess } from 'node:child_process';
import { atLast } from './ending.ts';
import { endGroup, signalGroup } from './shell.ts';

/** How a part is: it runs, it is being started again, or it ends as soon as it is started. */
export interface PartState {
  name: string;
  state: 'running' | 'restarting' | 'failing';
  why: string | null;
}

export interface Supervised {
  readonly state: PartState;
  readonly process: ChildProcess | null;
  /** Ends it and does not start it again. */
  stop(): Promise<void>;
}

export interface PartOptions {
  command: readonly string[];
  env: NodeJS.ProcessEnv;
  cwd: string;
  /** Called whenever the state has changed. */
  onState(state: PartState): void;
  /** Takes what it says: lines of its journal from its standard output, and what it has to say besides. */
  journal?: { said(data: Buffer): void; complained(data: Buffer): void };
  /** Where its complaints are shown; the terminal unless something else is said. */
  say?(text: string): void;
  /** Takes what it says by its channel. */
  onMessage?(message: unknown): void;
  /** Called right before each start. */
  beforeStart?(): void;
}

/** Ends within so long count as one after the other; so many of them are a crash loop. */
const LOOP_MS = 60000,
  LOOP_ENDS = 4;
const FIRST_PAUSE_MS = 300,
  LONGEST_PAUSE_MS = 8000;
/** A part that has run for so long runs. */
const STEADY_MS = 10000;
/** Characters of its last words that are kept as the reason of its end. */
const LAST_WORDS = 1000;

/** Keeps a part of the installation running: whenever it ends it is started again, soon at first, then less and less often. */
export function supervise(
  name: string,
  {
    command,
    env,
    cwd,
    onState,
    beforeStart,
    journal,
    onMessage,
    say = (text) => void process.stderr.write(text),
  }: PartOptions,
): Supervised {
  let child: ChildProcess | null = null,
    stopping = false,
    words = '';
  let again: NodeJS.Timeout | null = null,
    steady: NodeJS.Timeout | null = null;
  let ends: number[] = [];
  let state: PartState = { name, state: 'running', why: null };
  const tell = (next: PartState) => {
    state = next;
    onState(next);
  };
  const start = () => {
    again = null;
    words = '';
    beforeStart?.();
    // A channel between the two: when this process is gone, however it went, the part ends by itself.
    const made = spawn(command[0], command.slice(1), {
      cwd,
      env,
      stdio: ['ignore', journal ? 'pipe' : 'ignore', 'pipe', 'ipc'],
      detached: true,
    });
    child = made;
    if (onMessage) made.on('message', onMessage);
    if (journal) made.stdout!.on('data', journal.said);
    made.stderr!.on('data', (data: Buffer) => {
      say(data.toString());
      journal?.complained(data);
      words = (words + data.toString()).slice(-LAST_WORDS);
    });
    steady = setTimeout(() => {
      ends = [];
      tell({ name, state: 'running', why: null });
    }, STEADY_MS);
    made.once('error', (error) => ended(made, error.message));
    made.once('exit', (code, signal) => ended(made, signal ? `ended by ${signal}` : `ended with ${code}`));
  };
  const ended = (who: ChildProcess, how: string) => {
    if (child !== who) return;
    child = null;
    if (steady) clearTimeout(steady);
    if (stopping) return;
    const now = Date.now();
    ends = [...ends.filter((at) => now - at < LOOP_MS), now];
    const last = words.trim().split('\n').slice(-3).join(' ').slice(0, 300);
    const why = last === '' ? how : `${how}: ${last}`;
    say(`The ${name} ${how}; starting it again.\n`);
    tell({ name, state: ends.length >= LOOP_ENDS ? 'failing' : 'restarting', why });
    again = setTimeout(start, Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** (ends.length - 1)));
  };
  const off = atLast(() => {
    if (child) signalGroup(child, 'SIGKILL');
  });
  start();
  tell(state);
  return {
    get state() {
      return state;
    },
    get process() {
      return child;
    },
    stop: () => {
      stopping = true;
      if (again) clearTimeout(again);
      if (steady) clearTimeout(steady);
      return (child ? endGroup(child) : Promise.resolve()).finally(off);
    },
  };
}
