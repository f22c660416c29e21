import { sql } from 'drizzle-orm';
import { database } from '@/server/database';
import { answering, json } from '@/server/answers';

export const dynamic = 'force-dynamic';

export const GET = (): Promise<Response> => answering(async () => {
  await database().execute(sql`select 1`);
  return json({ ok: true });
});
