import { findProject } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, json, notFound, problem } from '@/server/answers';
import { roomFor } from '@/server/room';

export const dynamic = 'force-dynamic';

/** Is there room for a file of ?bytes=? Asked before it is sent. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const bytes = Number(new URL(request.url).searchParams.get('bytes') ?? 0);
  if (!(bytes >= 0 && bytes <= Number.MAX_SAFE_INTEGER)) return problem(400, 'invalid', '"bytes" is a number of bytes.');
  const project = isUuid(id) ? await findProject(database(), id) : null;
  return project ? json(await roomFor(id, bytes)) : notFound('project');
});
