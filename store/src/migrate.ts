import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Logger, runMigrations as migrateQueue } from 'graphile-worker';
import pg from 'pg';
import { openDatabase, type Database } from './database.ts';
import { sealOldPasswords } from './secrets.ts';

export interface Migrating {
  /** Folder of the program. */
  root?: string;
  /** The role as whom web servers and readers work, where that is another than the one that owns the tables. */
  app?: string;
}

/** Brings the tables and the queue's own up to date, as the role that owns them, and lets the application's role read and write their rows. */
export async function migrateDatabase(
  url: string,
  { root = process.env.CALQUE_ROOT ?? process.cwd(), app }: Migrating = {},
): Promise<void> {
  const database = openDatabase(url, { connections: 1, queryMs: 0 });
  try {
    await migrate(database, { migrationsFolder: `${root}/store/migrations` });
    await sealOldPasswords(database);
    // What fails there is thrown, and said by whom it concerns: a start that was ended meanwhile says nothing.
    await migrateQueue({ connectionString: url, logger: new Logger(() => () => undefined) });
    if (app) await allow(database, app);
  } finally {
    await database.$client.end();
  }
}

/** Rows alone: no table can be made, changed or dropped by the application. The queue's tables let nobody but their owner see rows, unless they say so. */
async function allow(database: Database, app: string): Promise<void> {
  const role = pg.escapeIdentifier(app);
  await database.execute(
    sql.raw(`
    grant usage on schema public, graphile_worker to ${role};
    grant select, insert, update, delete on all tables in schema public, graphile_worker to ${role};
    grant usage, select, update on all sequences in schema public, graphile_worker to ${role};
    grant execute on all routines in schema graphile_worker to ${role};
    do $$ declare t record; begin
      for t in select c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'graphile_worker' and c.relrowsecurity
               and not exists (select 1 from pg_policy p where p.polrelid = c.oid and p.polname = 'calque_application') loop
        execute format('create policy calque_application on graphile_worker.%I to ${role} using (true) with check (true)', t.relname);
      end loop;
    end $$`),
  );
}
