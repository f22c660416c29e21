import { sql } from 'drizzle-orm';
import { database } from '@/server/database';
import { answering, json } from '@/server/answers';
import { partStates } from '@/server/parts';
import type { HealthAnswer } from '@/project/wire';

export const dynamic = 'force-dynamic';

/** Does the installation work? Also how its parts are, where one supervises them. */
export const GET = (): Promise<Response> => answering(async () => {
  const parts = await partStates();
  const ok = await database().execute(sql`select 1`).then(() => true, () => false);
  return json({ ok, parts } satisfies HealthAnswer, ok ? 200 : 503);
});
