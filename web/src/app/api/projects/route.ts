import { createProject, listProjects } from '@calque/store';
import { json } from '@/server/answers';
import { bodyJson } from '@/server/bodies';
import { installationRoute } from '@/server/route';
import { newProject } from '@/server/schemas';

export const dynamic = 'force-dynamic';

export const GET = installationRoute('look', async ({ database }) => {
  const [open, binned] = await Promise.all([listProjects(database), listProjects(database, true)]);
  return json({ open, binned });
});

export const POST = installationRoute('change', async ({ request, database }) => {
  const settings = await newProject.validate(await bodyJson(request), { abortEarly: false });
  return json({ id: await createProject(database, settings) }, 201);
});
