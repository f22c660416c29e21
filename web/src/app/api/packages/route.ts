import { PackageError } from '@calque/core/exchange';
import { database } from '@/server/database';
import { answering, foreign, json, problem } from '@/server/answers';
import { uploadLimit } from '@/server/files';
import { unpackProject } from '@/server/packages';

/** Opens a .calque package as a new project. */
export const POST = (request: Request): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  if (Number(request.headers.get('content-length') ?? 0) > uploadLimit()) return problem(413, 'too-large', 'The package is larger than this installation takes.');
  try {
    return json({ id: await unpackProject(database(), new Uint8Array(await request.arrayBuffer())) }, 201);
  } catch (error) {
    if (error instanceof PackageError) return problem(400, error.code, error.message);
    throw error;
  }
});
