import { findPages } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, json, notFound } from '@/server/answers';

export const dynamic = 'force-dynamic';
const MOST_WORDS = 12, LONGEST = 200;

/** Pages of the project's files on which all words of ?words= stand. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  if (!isUuid(id)) return notFound('project');
  const words = (new URL(request.url).searchParams.get('words') ?? '').slice(0, LONGEST).trim().split(/\s+/).filter((w) => w !== '').slice(0, MOST_WORDS);
  return json(await findPages(database(), id, words));
});
