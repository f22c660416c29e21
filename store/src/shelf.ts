import { and, eq, sql } from 'drizzle-orm';
import { FORM, upgradeEntity } from '@calque/core/formats';
import { parseShelfThing, type ShelfThing } from '@calque/core/model';
import type { Database } from './database.ts';
import { shelf } from './schema.ts';

/** A thing of the shelf as it is now, and how often it has been changed. */
export interface OnShelf {
  thing: ShelfThing;
  version: number;
}

/** More than anybody finds again. */
export const MOST_ON_SHELF = 2000;

/** All that is on the shelf, in this form; what a newer version put there is left out. */
export async function listShelf(database: Database): Promise<OnShelf[]> {
  const rows = await database.select().from(shelf).orderBy(shelf.id);
  return rows
    .filter((r) => r.form <= FORM)
    .map(({ data, form, version }) => ({
      thing: form === FORM || data.type === 'opening' ? data : parseShelfThing(upgradeEntity(data, form)),
      version,
    }));
}

/**
 * Puts a thing on the shelf, or another in its place: 'changed' where somebody else changed or removed it since `seen` (0: it was not
 * there), 'full' where there is no room for one more. Else its version now.
 */
export async function putOnShelf(
  database: Database,
  thing: ShelfThing,
  seen: number,
): Promise<number | 'changed' | 'full'> {
  if (seen > 0) {
    const changed = await database
      .update(shelf)
      .set({ data: thing, form: FORM, version: seen + 1 })
      .where(and(eq(shelf.id, thing.id), eq(shelf.version, seen)))
      .returning({ version: shelf.version });
    return changed[0]?.version ?? 'changed';
  }
  const [{ count }] = await database.select({ count: sql<number>`count(*)::int` }).from(shelf);
  if (count >= MOST_ON_SHELF) return 'full';
  const added = await database
    .insert(shelf)
    .values({ id: thing.id, data: thing, form: FORM, version: 1 })
    .onConflictDoNothing()
    .returning({ version: shelf.version });
  return added[0]?.version ?? 'changed';
}

/** Takes a thing off the shelf; projects keep what they have of it. False where it was not as it was `seen`. */
export async function takeOffShelf(database: Database, id: string, seen: number): Promise<boolean> {
  const gone = await database
    .delete(shelf)
    .where(and(eq(shelf.id, id), eq(shelf.version, seen)))
    .returning({ id: shelf.id });
  return gone.length > 0;
}
