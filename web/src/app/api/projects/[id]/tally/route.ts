import { projectTally } from '@calque/store';
import { json } from '@/server/answers';
import { projectRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** How much there is in a project: its sheets, those that are calibrated, and what is traced, by kind. */
export const GET = projectRoute('look', async ({ database, project }) =>
  json(await projectTally(database, project.id)),
);
