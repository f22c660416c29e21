import { findProject, loadStepsText, NoRequest } from '@calque/store';
import { database } from '@/server/database';
import { answering, foreign, isUuid, json, jsonText, notFound, problem } from '@/server/answers';
import { bodyBytes } from '@/server/bodies';
import { LARGEST_CHANGES, takeSteps } from '@/server/threads';
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
  if (!isUuid(id) || !isSeq(after) || (before !== undefined && !isSeq(before)) || !(await findProject(database(), id))) return notFound('project');
  // A StepsAnswer, its steps as the database wrote them.
  const { text, more } = await loadStepsText(database(), id, after, { last, before });
  return jsonText(`{"steps":${text},"more":${more}}`);
});

/** Sequences are whole numbers of the database. */
const isSeq = (n: number): boolean => Number.isInteger(n) && n >= 0 && n < 2 ** 31;

export const POST = (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const { id } = await params;
  if (!isUuid(id)) return notFound('project');
  const body = await bodyBytes(request, LARGEST_CHANGES);
  try {
    const result = await takeSteps(id, body);
    if (result.ok) return json({ ok: true, seq: result.seq } satisfies ChangesAnswer);
    if (result.code === 'no-project') return notFound('project');
    const message = result.code === 'refused' ? REFUSAL_WORDS[result.refusal.code] : result.message;
    return json({ ok: false, code: result.code, stepId: result.stepId, message, seq: result.seq } satisfies ChangesAnswer, 409);
  } catch (error) {
    if (error instanceof NoRequest) return problem(400, 'invalid', error.message);
    throw error;
  }
});
