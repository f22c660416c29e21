import { answering, foreign, json, problem } from '@/server/answers';
import { unpackUpload } from '@/server/packages';

/** Opens a .calque package as a new project. */
export const POST = (request: Request): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  if (!request.body) return problem(400, 'not-a-package', 'This is not a .calque package: it is empty.');
  return json({ id: await unpackUpload(request.body) }, 201);
});
