import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The command line as a person runs it, in a folder of its own. */
export const root = fileURLToPath(new URL('../../', import.meta.url));
export const photo = (name: string) => join(root, 'reader/test/hands/photos', name);
export const sheet = (name: string) => join(root, 'reader/test/sheets', name);
export const folder = mkdtempSync(join(tmpdir(), 'calque-cli-'));

export function calque(...args: string[]): { status: number; out: string; err: string } {
  const done = spawnSync(join(root, 'calque'), args, { cwd: folder, encoding: 'utf8', maxBuffer: 64 << 20 });
  return { status: done.status ?? -1, out: done.stdout, err: done.stderr };
}
