import { readFile } from 'node:fs/promises';
import { sql } from 'drizzle-orm';
import { database } from '@/server/database';
import { answering, json } from '@/server/answers';
import type { HealthAnswer } from '@/project/wire';

export const dynamic = 'force-dynamic';

/** Does the installation work? Also how its parts are, where one supervises them. */
export const GET = (): Promise<Response> => answering(async () => {
  const file = process.env.CALQUE_PARTS;
  const parts = file ? await readFile(file, 'utf8').then((text) => JSON.parse(text) as HealthAnswer['parts'], () => []) : [];
  const ok = await database().execute(sql`select 1`).then(() => true, () => false);
  return json({ ok, parts } satisfies HealthAnswer, ok ? 200 : 503);
});
