import { drizzle, type PostgresJsDatabase } from 'drizzle-orm/postgres-js';
import { migrate } from 'drizzle-orm/postgres-js/migrator';
import { runMigrations as migrateQueue } from 'graphile-worker';
import postgres from 'postgres';
import * as schema from './schema.ts';

export type Database = PostgresJsDatabase<typeof schema> & { $client: postgres.Sql };
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start Calque with ./calque start.');
  return url;
}

export function openDatabase(url = databaseUrl(), connections = 10): Database {
  return drizzle(postgres(url, { max: connections, onnotice: () => {} }), { schema });
}

/** Brings the tables and the queue's own up to date. `root` is the folder of the project. */
export async function migrateDatabase(url: string, root = process.env.CALQUE_ROOT ?? process.cwd()): Promise<void> {
  const database = openDatabase(url, 1);
  await migrate(database, { migrationsFolder: `${root}/store/migrations` });
  await database.$client.end();
  await migrateQueue({ connectionString: url });
}
