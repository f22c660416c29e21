import { findPages } from '@calque/store';
import { json } from '@/server/answers';
import { projectRoute } from '@/server/route';

export const dynamic = 'force-dynamic';
const MOST_WORDS = 12,
  LONGEST = 200;

/** Pages of the project's files on which all words of ?words= stand. */
export const GET = projectRoute('look', async ({ database, project, query }) => {
  const words = (query.get('words') ?? '')
    .slice(0, LONGEST)
    .trim()
    .split(/\s+/)
    .filter((w) => w !== '')
    .slice(0, MOST_WORDS);
  return json(await findPages(database, project.id, words));
});
