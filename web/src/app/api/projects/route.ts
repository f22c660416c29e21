import { createProject, listProjects } from '@calque/store';
import { database } from '@/server/database';
import { answering, foreign, json } from '@/server/answers';
import { bodyJson } from '@/server/bodies';
import { newProject } from '@/server/schemas';

export const dynamic = 'force-dynamic';

export const GET = (): Promise<Response> => answering(async () => {
  const [open, binned] = await Promise.all([listProjects(database()), listProjects(database(), true)]);
  return json({ open, binned });
});

export const POST = (request: Request): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const settings = await newProject.validate(await bodyJson(request), { abortEarly: false });
  return json({ id: await createProject(database(), settings) }, 201);
});
