import { loadProject } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, json, notFound } from '@/server/answers';
import { fileInfos } from '@/server/files';
import type { ProjectAnswer } from '@/project/wire';

export const dynamic = 'force-dynamic';

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const project = isUuid(id) ? await loadProject(database(), id) : null;
  if (!project) return notFound('project');
  return json({ ...project, files: await fileInfos(database(), id) } satisfies ProjectAnswer);
});
