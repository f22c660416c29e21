import { randomBytes } from 'node:crypto';
import { rmSync } from 'node:fs';
import { migrateDatabase } from '@calque/store';
import { startPostgres } from '../../ops/src/database/postgres.ts';
import { KEEPER } from '../../ops/src/database/cluster.ts';
import { APP, urlOf } from '../../ops/src/database/roles.ts';
import { dataFolder } from '../../ops/src/identity.ts';

/** A PostgreSQL of the tests' own for the whole run; its address is in UNIT_DATABASE_URL. */
export async function setup(): Promise<() => Promise<void>> {
  const name = `unit-${process.pid}`;
  process.env.CALQUE_SECRET = randomBytes(32).toString('base64');
  const database = await startPostgres(name);
  await migrateDatabase(database.ownerUrl, { root: process.cwd(), app: APP });
  process.env.UNIT_DATABASE_URL = database.url;
  process.env.UNIT_KEEPER_URL = urlOf(KEEPER, database.keys.keeper, Number(new URL(database.url).port));
  return async () => {
    await database.stop();
    rmSync(dataFolder(name), { recursive: true, force: true });
  };
}
