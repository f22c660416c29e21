import { FORM } from '@calque/core/formats';
import { loadProjectText } from '@calque/store';
import { jsonText, notFound } from '@/server/answers';
import { fileInfos } from '@/server/files';
import { projectRoute } from '@/server/route';
import type { ProjectAnswer } from '@/project/wire';

export const dynamic = 'force-dynamic';

export const GET = projectRoute('look', async ({ database, project: { id } }) => {
  const project = await loadProjectText(database, id);
  if (!project) return notFound('project');
  // A ProjectAnswer, its entities as the database wrote them.
  return jsonText(
    `{"form":${FORM},"seq":${project.seq},"entities":${project.entities},"files":${JSON.stringify((await fileInfos(database, id)) satisfies ProjectAnswer['files'])}}`,
  );
});
