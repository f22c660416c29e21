import { destroyProject, setBinned } from '@calque/store';
import { json, notFound } from '@/server/answers';
import { projectRoute } from '@/server/route';

/** Into the bin; out of it again; out for good. */
export const POST = projectRoute(
  'change',
  async ({ database, project }) =>
    (await setBinned(database, project.id, true)) ? json({ ok: true }) : notFound('project'),
  'either',
);
export const PUT = projectRoute(
  'change',
  async ({ database, project }) =>
    (await setBinned(database, project.id, false)) ? json({ ok: true }) : notFound('project'),
  'either',
);
export const DELETE = projectRoute(
  'change',
  async ({ database, project }) =>
    (await destroyProject(database, project.id)) ? json({ ok: true }) : notFound('project'),
  'binned',
);
