import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { claim } from '../claim.ts';
import { startPostgres } from '../database/postgres.ts';
import { runningUrl } from '../database/running.ts';
import { atEnd } from '../ending.ts';
import { dataFolder } from '../identity.ts';

export const INSTALLATION = 'main';

export interface OpenedDatabase {
  ownerUrl: string;
  secret: string;
  bin: string;
  close(): Promise<void>;
}

/** The database of the installation: the running one, or it is started for as long as it is needed. */
export async function openInstallation(): Promise<OpenedDatabase> {
  const folder = dataFolder(INSTALLATION);
  if (!existsSync(join(folder, 'postgres', 'PG_VERSION')))
    throw new Error(
      `There is no installation in ${folder} yet: nothing to back up. Where it lies elsewhere, CALQUE_DATA names the place.`,
    );
  const running = await runningUrl(folder);
  if (running) return { ...running, close: () => Promise.resolve() };
  const held = claim(folder),
    database = await startPostgres(INSTALLATION);
  const close = async () => {
    await database.stop();
    held.release();
    off();
  };
  const off = atEnd(close);
  return { ownerUrl: database.ownerUrl, secret: database.keys.secret, bin: database.binaries.folder, close };
}
