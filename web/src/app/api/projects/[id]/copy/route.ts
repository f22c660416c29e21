import { renameProject } from '@calque/store';
import { json, notFound, problem } from '@/server/answers';
import { packedStream, unpackUpload } from '@/server/packages';
import { roomToCopy } from '@/server/room';
import { projectRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

const LONGEST_NAME = 200,
  COPY = ', copy';

/** The project once more, with its sheets and its history, under a name that says so. */
export const POST = projectRoute('change', async ({ database, project }) => {
  const room = await roomToCopy(project.id);
  if (!room.ok) return problem(413, 'no-room', room.message);
  const packed = await packedStream(project.id);
  if (!packed) return notFound('project');
  const id = await unpackUpload(packed);
  await renameProject(database, id, `${project.name.slice(0, LONGEST_NAME - COPY.length)}${COPY}`);
  return json({ id }, 201);
});
