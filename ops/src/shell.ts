import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { atEnd, atLast, Ending, isEnding } from './ending.ts';

export const root = process.env.CALQUE_ROOT ?? process.cwd();

export interface RunOptions {
  env?: NodeJS.ProcessEnv;
  /** Its output is shown only when it fails. */
  quiet?: boolean;
  cwd?: string;
  /** Written to its standard input. */
  input?: string;
  uid?: number;
  gid?: number;
}

const MOST_OUTPUT = 4 << 20;

/** Runs a program to its end and gives what it printed; rejects with its words where it fails, with Ending where this program ends meanwhile. */
export async function mustRun(
  program: string,
  args: readonly string[],
  { env = process.env, quiet = false, cwd = root, input, uid, gid }: RunOptions = {},
): Promise<string> {
  if (isEnding()) throw new Ending();
  const child = spawn(program, args, {
    cwd,
    env,
    uid,
    gid,
    stdio: [input === undefined ? 'ignore' : 'pipe', quiet ? 'pipe' : 'inherit', quiet ? 'pipe' : 'inherit'],
    detached: true,
  });
  const off = endsWithUs(child);
  let output = '',
    errors = '';
  child.stdout?.on('data', (d: Buffer) => {
    output = (output + d.toString()).slice(-MOST_OUTPUT);
  });
  child.stderr?.on('data', (d: Buffer) => {
    errors = (errors + d.toString()).slice(-MOST_OUTPUT);
  });
  if (input !== undefined) child.stdin!.on('error', () => {}).end(input);
  const failed = await new Promise<string | null>((resolve) => {
    child.once('error', (error) => resolve(error.message));
    child.once('close', (code, signal) =>
      resolve(code === 0 ? null : signal ? `ended by ${signal}` : `ended with ${code}`),
    );
  });
  off();
  if (isEnding()) throw new Ending();
  if (failed !== null)
    throw new Error(`${program} ${args.join(' ')} failed: ${failed}\n${output}${errors}`.trimEnd());
  return output;
}

export function succeeds(program: string, args: readonly string[]): boolean {
  return spawnSync(program, args, { stdio: 'ignore' }).status === 0;
}

/** Runs a program, passes its output on, and gives both its status and what it printed. */
export async function runTee(
  program: string,
  args: readonly string[],
  env: NodeJS.ProcessEnv = process.env,
): Promise<{ status: number; output: string }> {
  if (isEnding()) throw new Ending();
  const child = spawn(program, args, { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'], detached: true });
  const off = endsWithUs(child);
  let output = '';
  const take = (to: NodeJS.WriteStream) => (data: Buffer) => {
    output += data.toString();
    to.write(data);
  };
  child.stdout.on('data', take(process.stdout));
  child.stderr.on('data', take(process.stderr));
  const done = await new Promise<{ status: number; output: string }>((resolve) => {
    child.on('close', (code) => resolve({ status: code ?? 1, output }));
    child.on('error', (error) => resolve({ status: 1, output: error.message }));
  });
  off();
  if (isEnding()) throw new Ending();
  return done;
}

/** Has a child end with this program, whichever way that ends; gives what lets it be when it has ended by itself. */
export function endsWithUs(child: ChildProcess): () => void {
  const offs = [atEnd(() => endGroup(child)), atLast(() => signalGroup(child, 'SIGKILL'))];
  return () => offs.forEach((off) => off());
}

/** One that does not end when it is asked to is ended after so long. */
const PATIENCE_MS = 700;

/** Ends a child with all that it started in its turn. */
export function endGroup(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    if (child.pid === undefined || child.exitCode !== null || child.signalCode !== null) return resolve();
    const timer = setTimeout(() => signalGroup(child, 'SIGKILL'), PATIENCE_MS);
    child.once('exit', () => {
      clearTimeout(timer);
      // What it leaves behind goes with it.
      signalGroup(child, 'SIGKILL');
      resolve();
    });
    signalGroup(child, 'SIGTERM');
  });
}

/** Signals the child's whole group, so that its own children end too. */
export function signalGroup(child: ChildProcess, name: NodeJS.Signals): void {
  try {
    process.kill(-child.pid!, name);
  } catch {
    child.kill(name);
  }
}
