import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';

/** Marks a data folder as in use by this process; refuses where another live one holds it. Returns the way to let go. */
export function claim(folder: string): () => void {
  const file = join(folder, 'calque.pid');
  const holder = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
  if (holder !== process.pid && isCalque(holder)) {
    throw new Error(`Calque already runs on this data (process ${holder}). Stop that one first, or give this one data of its own with CALQUE_DATA.`);
  }
  writeFileSync(file, String(process.pid));
  return () => rmSync(file, { force: true });
}

function isCalque(pid: number): boolean {
  try {
    return pid > 0 && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('ops.mjs');
  } catch {
    return false;
  }
}

/** Refuses a port that something else listens on: its answers would be taken for ours. */
export function mustBeFree(port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', () => reject(new Error(`Port ${port} is taken. PORT=${port + 100} ./calque start uses another.`)));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve()));
  });
}
