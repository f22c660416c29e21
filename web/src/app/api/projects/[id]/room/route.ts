import { json, problem } from '@/server/answers';
import { roomFor } from '@/server/room';
import { projectRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** Is there room for a file of ?bytes=? Asked before it is sent. */
export const GET = projectRoute('look', async ({ project, query }) => {
  const bytes = Number(query.get('bytes') ?? 0);
  if (!(bytes >= 0 && bytes <= Number.MAX_SAFE_INTEGER))
    return problem(400, 'invalid', '"bytes" is a number of bytes.');
  return json(await roomFor(project.id, bytes));
});
