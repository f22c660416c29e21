import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { runMigrations as migrateQueue } from 'graphile-worker';
import pg from 'pg';
import * as schema from './schema.ts';

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start Calque with ./calque start.');
  return url;
}

export function openDatabase(url = databaseUrl(), connections = 10): Database {
  const pool = new pg.Pool({ connectionString: url, max: connections, keepAlive: true });
  // An idle connection that breaks is replaced at the next question; without a listener it would end the process.
  pool.on('error', () => {});
  return drizzle(pool, { schema });
}

/** Brings the tables and the queue's own up to date. `root` is the folder of the project. */
export async function migrateDatabase(url: string, root = process.env.CALQUE_ROOT ?? process.cwd()): Promise<void> {
  const database = openDatabase(url, 1);
  await migrate(database, { migrationsFolder: `${root}/store/migrations` });
  await database.$client.end();
  await migrateQueue({ connectionString: url });
}
