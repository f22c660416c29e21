import { eq, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { blobs, files } from './schema.ts';

/** Bytes that nothing refers to are kept so long, so that nothing on its way is taken: stored ones until they are attached, uploads until they go on. */
const STORED_MINUTES = 10,
  STANDING_MINUTES = 45;

/** Removes the bytes that nothing refers to any more; says how many blobs went. */
export async function collectBlobs(database: Database): Promise<number> {
  const { rowCount } =
    await database.execute(sql`delete from blobs b where b.touched < now() - make_interval(mins => case when b.sha256 is null then ${STANDING_MINUTES}::int else ${STORED_MINUTES}::int end)
    and not exists (select 1 from files f where f.blob_id = b.id) and not exists (select 1 from files f where f.drawing_blob_id = b.id) and not exists (select 1 from sheets s where s.linework_blob_id = b.id)`);
  return rowCount ?? 0;
}

/** Bytes of the files that a project holds, and of the whole database. */
export async function usedRoom(
  database: Database,
  projectId: string,
): Promise<{ project: number; installation: number }> {
  const [{ bytes }] = await database
    .select({ bytes: sql<string>`coalesce(sum(${blobs.size}), 0)` })
    .from(files)
    .innerJoin(blobs, eq(blobs.id, files.blobId))
    .where(eq(files.projectId, projectId));
  const {
    rows: [{ all }],
  } = await database.execute<{ all: string }>(sql`select pg_database_size(current_database()) as all`);
  return { project: Number(bytes), installation: Number(all) };
}
