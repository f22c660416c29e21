import { sql } from 'drizzle-orm';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { runMigrations as migrateQueue } from 'graphile-worker';
import pg from 'pg';
import { sealOldPasswords } from './secrets.ts';
import * as schema from './schema.ts';

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start Calque with ./calque start.');
  return url;
}

export interface Connecting {
  /** Most connections at once. */
  connections?: number;
  /** Longest time of one query, milliseconds; 0: without end. */
  queryMs?: number;
}

/** How long somebody waits for a free connection, for a lock that another holds, and how long a transaction may stand idle. */
const CONNECT_MS = 10000, LOCK_MS = 20000, IDLE_MS = 60000;
const QUERY_MS = 30000;

/** A pool of connections. No query, wait or idle transaction is without end. */
export function openDatabase(url = databaseUrl(), { connections = 10, queryMs = QUERY_MS }: Connecting = {}): Database {
  const pool = new pg.Pool({
    connectionString: url, max: connections, keepAlive: true, connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: queryMs, lock_timeout: LOCK_MS, idle_in_transaction_session_timeout: IDLE_MS, ...(queryMs > 0 && { query_timeout: queryMs + 5000 }),
  });
  // An idle connection that breaks is replaced at the next question; without a listener it would end the process.
  pool.on('error', () => {});
  // One that is in use tells by the failing of its query; between two queries of a transaction there would be nobody to tell.
  pool.on('connect', (client) => client.on('error', () => {}));
  return drizzle(pool, { schema });
}

export interface Migrating {
  /** Folder of the program. */
  root?: string;
  /** The role as whom web servers and readers work, where that is another than the one that owns the tables. */
  app?: string;
}

/** Brings the tables and the queue's own up to date, as the role that owns them, and lets the application's role read and write their rows. */
export async function migrateDatabase(url: string, { root = process.env.CALQUE_ROOT ?? process.cwd(), app }: Migrating = {}): Promise<void> {
  const database = openDatabase(url, { connections: 1, queryMs: 0 });
  try {
    await migrate(database, { migrationsFolder: `${root}/store/migrations` });
    await sealOldPasswords(database);
    await migrateQueue({ connectionString: url });
    if (app) await allow(database, app);
  } finally {
    await database.$client.end();
  }
}

/** Rows alone: no table can be made, changed or dropped by the application. The queue's tables let nobody but their owner see rows, unless they say so. */
async function allow(database: Database, app: string): Promise<void> {
  const role = pg.escapeIdentifier(app);
  await database.execute(sql.raw(`
    grant usage on schema public, graphile_worker to ${role};
    grant select, insert, update, delete on all tables in schema public, graphile_worker to ${role};
    grant usage, select, update on all sequences in schema public, graphile_worker to ${role};
    grant execute on all routines in schema graphile_worker to ${role};
    do $$ declare t record; begin
      for t in select c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'graphile_worker' and c.relrowsecurity
               and not exists (select 1 from pg_policy p where p.polrelid = c.oid and p.polname = 'calque_application') loop
        execute format('create policy calque_application on graphile_worker.%I to ${role} using (true) with check (true)', t.relname);
      end loop;
    end $$`));
}
