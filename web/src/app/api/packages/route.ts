import { json, problem } from '@/server/answers';
import { statedLength } from '@/server/bodies';
import { unpackUpload } from '@/server/packages';
import { roomForProject } from '@/server/room';
import { installationRoute } from '@/server/route';

/** Opens a .calque package as a new project. */
export const POST = installationRoute('change', async ({ request }) => {
  const room = await roomForProject(statedLength(request));
  if (!room.ok) return problem(413, 'no-room', room.message);
  if (!request.body) return problem(400, 'not-a-package', 'This is not a .calque package: it is empty.');
  return json({ id: await unpackUpload(request.body) }, 201);
});
