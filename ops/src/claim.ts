import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';

export interface Claim { /** Was the one before killed, so that what it started may still be ending? */ tookOver: boolean; release(): void }

/** Marks a data folder as in use by this process; refuses where another live one holds it. */
export function claim(folder: string): Claim {
  const file = join(folder, 'calque.pid');
  const holder = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
  if (holder !== process.pid && isCalque(holder)) {
    throw new Error(`Calque already runs on this data (process ${holder}). Stop that one first, or give this one data of its own with CALQUE_DATA.`);
  }
  writeFileSync(file, String(process.pid));
  return { tookOver: holder !== 0 && holder !== process.pid, release: () => rmSync(file, { force: true }) };
}

function isCalque(pid: number): boolean {
  try {
    return pid > 0 && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('ops.mjs');
  } catch {
    return false;
  }
}

/** How long the parts of a killed one may take to let go of their port. */
const LETS_GO_MS = 8000;

/** Refuses a port that something else listens on: its answers would be taken for ours. `soon`: whoever holds it is ending. */
export async function mustBeFree(port: number, soon = false): Promise<void> {
  const began = Date.now();
  while (!(await isFree(port))) {
    if (!soon || Date.now() - began > LETS_GO_MS) throw new Error(`Port ${port} is taken. PORT=${port + 100} ./calque start uses another.`);
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
}
