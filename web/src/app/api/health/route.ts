import { sql } from 'drizzle-orm';
import { json } from '@/server/answers';
import { partStates } from '@/server/parts';
import { installationRoute } from '@/server/route';
import type { HealthAnswer } from '@/project/wire';

export const dynamic = 'force-dynamic';

/** Does the installation work? Also how its parts are, where one supervises them. */
export const GET = installationRoute('look', async ({ database }) => {
  const parts = await partStates();
  const ok = await database.execute(sql`select 1`).then(
    () => true,
    () => false,
  );
  return json({ ok, parts } satisfies HealthAnswer, ok ? 200 : 503);
});
