import { FORM } from '@calque/core/formats';
import { loadStepsText, NoRequest } from '@calque/store';
import { json, jsonText, notFound, problem } from '@/server/answers';
import { jsonBytes } from '@/server/bodies';
import { projectRoute } from '@/server/route';
import { stepsQuery } from '@/server/schemas';
import { LARGEST_CHANGES, takeSteps } from '@/server/threads';
import type { ChangesAnswer } from '@/project/wire';

export const dynamic = 'force-dynamic';

const REFUSAL_WORDS = {
  exists: 'it is there already',
  missing: 'what it changes has been removed meanwhile',
  stale: 'what it changes has been changed elsewhere meanwhile',
};

/** The steps after a sequence number and, if given, before another, with who made them; `last` asks for at most so many of the latest. */
export const GET = projectRoute('look', async ({ database, project, query }) => {
  const { after, last, before } = stepsQuery.validateSync(Object.fromEntries(query));
  // A StepsAnswer, its steps as the database wrote them.
  const { text, more } = await loadStepsText(database, project.id, after, { last, before });
  return jsonText(`{"form":${FORM},"steps":${text},"more":${more}}`);
});

export const POST = projectRoute('change', async ({ request, project }) => {
  const body = await jsonBytes(request, LARGEST_CHANGES);
  try {
    const result = await takeSteps(project.id, body);
    if (result.ok) return json({ ok: true, seq: result.seq } satisfies ChangesAnswer);
    if (result.code === 'no-project') return notFound('project');
    const message = result.code === 'refused' ? REFUSAL_WORDS[result.refusal.code] : result.message;
    return json(
      {
        ok: false,
        code: result.code,
        stepId: result.stepId,
        message,
        seq: result.seq,
      } satisfies ChangesAnswer,
      409,
    );
  } catch (error) {
    if (error instanceof NoRequest) return problem(400, 'invalid', error.message);
    throw error;
  }
});
