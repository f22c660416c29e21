import { loadProjectText } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, jsonText, notFound } from '@/server/answers';
import { fileInfos } from '@/server/files';
import type { ProjectAnswer } from '@/project/wire';

export const dynamic = 'force-dynamic';

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const project = isUuid(id) ? await loadProjectText(database(), id) : null;
  if (!project) return notFound('project');
  // A ProjectAnswer, its entities as the database wrote them.
  return jsonText(`{"seq":${project.seq},"entities":${project.entities},"files":${JSON.stringify((await fileInfos(database(), id)) satisfies ProjectAnswer['files'])}}`);
});
