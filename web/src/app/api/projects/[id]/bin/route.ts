import { destroyProject, setBinned } from '@calque/store';
import { database } from '@/server/database';
import { answering, foreign, isUuid, json, notFound } from '@/server/answers';

type Context = { params: Promise<{ id: string }> };

const handler = (work: (id: string) => Promise<boolean>) => (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const { id } = await params;
  return isUuid(id) && (await work(id)) ? json({ ok: true }) : notFound('project');
});

/** Into the bin; out of it again; out for good. */
export const POST = handler((id) => setBinned(database(), id, true));
export const PUT = handler((id) => setBinned(database(), id, false));
export const DELETE = handler((id) => destroyProject(database(), id));
