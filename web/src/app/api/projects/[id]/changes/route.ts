import { findProject, loadSteps, submitSteps } from '@calque/store';
import { database } from '@/server/database';
import { answering, foreign, isUuid, json, notFound, problem } from '@/server/answers';
import { parseChangesRequest } from '@/server/schemas';
import type { ChangesAnswer } from '@/project/wire';

type Context = { params: Promise<{ id: string }> };
export const dynamic = 'force-dynamic';

const REFUSAL_WORDS = {
  exists: 'it is there already', missing: 'what it changes has been removed meanwhile', stale: 'what it changes has been changed elsewhere meanwhile',
};

const MOST_LAST = 10000;

/** The steps after a sequence number and, if given, before another, with who made them; `last` asks for at most so many of the latest. */
export const GET = (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const { id } = await params;
  const query = new URL(request.url).searchParams;
  const after = Number(query.get('after') ?? 0), last = query.has('last') ? Number(query.get('last')) : undefined, before = query.has('before') ? Number(query.get('before')) : undefined;
  if (last !== undefined && !(Number.isInteger(last) && last > 0 && last <= MOST_LAST)) return problem(400, 'invalid', `"last" is a whole number from 1 to ${MOST_LAST}.`);
  if (!isUuid(id) || !Number.isInteger(after) || (before !== undefined && !Number.isInteger(before)) || !(await findProject(database(), id))) return notFound('project');
  return json(await loadSteps(database(), id, after, { last, before }));
});

export const POST = (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const { id } = await params;
  if (!isUuid(id)) return notFound('project');
  const { clientId, steps } = parseChangesRequest(await request.json());
  const result = await submitSteps(database(), id, clientId, steps);
  if (result.ok) return json({ ok: true, seq: result.seq } satisfies ChangesAnswer);
  if (result.code === 'no-project') return notFound('project');
  const message = result.code === 'refused' ? REFUSAL_WORDS[result.refusal.code] : result.message;
  return json({ ok: false, code: result.code, stepId: result.stepId, message, seq: result.seq } satisfies ChangesAnswer, 409);
});
