import { randomBytes } from 'node:crypto';
import { rmSync } from 'node:fs';
import { migrateDatabase } from '@calque/store';
import { dataFolder, startPostgres } from '../../ops/src/postgres.ts';

/** A PostgreSQL of the tests' own for the whole run; its address is in UNIT_DATABASE_URL. */
export async function setup(): Promise<() => void> {
  const name = `unit-${process.pid}`;
  process.env.CALQUE_SECRET = randomBytes(32).toString('base64');
  const database = await startPostgres(name);
  await migrateDatabase(database.url, process.cwd());
  process.env.UNIT_DATABASE_URL = database.url;
  return () => {
    database.stop();
    rmSync(dataFolder(name), { recursive: true, force: true });
  };
}
