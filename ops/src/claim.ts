import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { cannotWrite } from './identity.ts';

export interface Claim {
  /** Was the one before killed, so that what it started may still be ending? */ tookOver: boolean;
  release(): void;
}

/** Marks a data folder as in use by this process; refuses where another live one holds it. */
export function claim(folder: string): Claim {
  const file = join(folder, 'calque.pid');
  const [pid, began] = existsSync(file) ? readFileSync(file, 'utf8').trim().split(' ') : ['0'];
  const holder = Number(pid),
    isOwn = holder === process.pid;
  if (!isOwn && holder > 0 && runs(holder, began)) {
    throw new Error(
      `Calque already runs on this data (process ${holder}). Stop that one first, or give this one data of its own with CALQUE_DATA.`,
    );
  }
  try {
    writeFileSync(`${file}.next`, `${process.pid} ${beganAt(process.pid) ?? ''}`);
    renameSync(`${file}.next`, file);
  } catch (error) {
    throw new Error(
      `Data cannot be kept in ${folder}: ${cannotWrite(error)}. CALQUE_DATA=FOLDER names another place.`,
    );
  }
  return { tookOver: holder !== 0 && !isOwn, release: () => rmSync(file, { force: true }) };
}

/** When a process began, in ticks since the machine did (proc(5), stat, field 22): another that has got its number began later. */
function beganAt(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19];
  } catch {
    return null;
  }
}

function runs(pid: number, began: string | undefined): boolean {
  const now = beganAt(pid);
  if (now === null) return false;
  if (began) return now === began;
  // Written by an earlier version.
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('ops.mjs');
  } catch {
    return false;
  }
}

/** How long the parts of a killed one may take to let go of their port. */
const LETS_GO_MS = 8000;

/** Refuses a port that something else listens on: its answers would be taken for ours; and one that may not be opened. `soon`: whoever holds it is ending. */
export async function mustBeFree(port: number, soon = false): Promise<void> {
  for (const began = Date.now(); ;) {
    const fault = await listenFault(port);
    if (fault === null) return;
    if (fault === 'EACCES')
      throw new Error(
        `Port ${port} may be opened by root alone on this machine. PORT=4400 ./calque start uses one that anybody may open; a proxy in front of it can serve port ${port} (docs/operating.md).`,
      );
    if (fault !== 'EADDRINUSE') throw new Error(`Port ${port} cannot be opened: ${fault}.`);
    if (!soon || Date.now() - began > LETS_GO_MS)
      throw new Error(
        `Port ${port} is taken. PORT=${port > 65435 ? 4400 : port + 100} ./calque start uses another.`,
      );
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

function listenFault(port: number): Promise<string | null> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', (error: NodeJS.ErrnoException) => resolve(error.code ?? error.message));
    probe.listen(port, process.env.CALQUE_LISTEN || '127.0.0.1', () => probe.close(() => resolve(null)));
  });
}
