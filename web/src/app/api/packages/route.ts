import { answering, foreign, json, problem } from '@/server/answers';
import { roomForProject } from '@/server/room';
import { unpackUpload } from '@/server/packages';

/** Opens a .calque package as a new project. */
export const POST = (request: Request): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const stated = Number(request.headers.get('content-length') ?? 0);
  const room = await roomForProject(stated > 0 ? stated : 0);
  if (!room.ok) return problem(413, 'no-room', room.message);
  if (!request.body) return problem(400, 'not-a-package', 'This is not a .calque package: it is empty.');
  return json({ id: await unpackUpload(request.body) }, 201);
});
