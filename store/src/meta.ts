import { eq } from 'drizzle-orm';
import type { Database } from './database.ts';
import { meta } from './schema.ts';

export async function getMeta<T>(database: Database, key: string): Promise<T | null> {
  const [row] = await database.select().from(meta).where(eq(meta.key, key));
  return (row?.value as T) ?? null;
}

export async function setMeta(database: Database, key: string, value: unknown): Promise<void> {
  await database.insert(meta).values({ key, value }).onConflictDoUpdate({ target: meta.key, set: { value } });
}
