import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { binariesFor } from './binaries.ts';
import { keysExist, keysOf } from './keys.ts';
import { asking, OWNER, urlOf } from './roles.ts';

/** How to reach the database of a folder where it runs; null where it does not. */
export async function runningUrl(
  folder: string,
): Promise<{ ownerUrl: string; secret: string; bin: string } | null> {
  if (!keysExist(folder)) return null;
  let port: number;
  try {
    port = Number(readFileSync(join(folder, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[3]);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EACCES')
      throw new Error(
        `The database in ${folder} belongs to another user: run this as whoever starts Calque there.`,
      );
    return null;
  }
  const keys = keysOf(folder),
    ownerUrl = urlOf(OWNER, keys.owner, port);
  const answers = await asking(ownerUrl, (client) => client.query('select 1')).then(
    () => true,
    () => false,
  );
  return answers
    ? { ownerUrl, secret: keys.secret, bin: binariesFor(join(folder, 'postgres')).folder }
    : null;
}
