import { attachFile, findProject, readAgain, removeBlob, sameFile, storeBlob, TooLarge } from '@calque/store';
import { database } from '@/server/database';
import { answering, foreign, isUuid, json, notFound, problem } from '@/server/answers';
import { fileInfos, shownName } from '@/server/files';
import { roomFor, uploadLimit } from '@/server/room';

type Context = { params: Promise<{ id: string }> };
export const dynamic = 'force-dynamic';

export const GET = (_: Request, { params }: Context): Promise<Response> => answering(async () => {
  const { id } = await params;
  return isUuid(id) ? json(await fileInfos(database(), id)) : notFound('project');
});

/** Takes the request's body as a file, streamed into the database; ?name= is shown, never used as a path. */
export const POST = (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const { id } = await params;
  const project = isUuid(id) ? await findProject(database(), id) : null;
  if (!project || project.deleted) return notFound('project');
  const limit = uploadLimit();
  const tooLarge = () => problem(413, 'too-large', `The file is larger than the ${Math.round(limit / 1e6)} MB that this installation takes. Split it, or save it with smaller pictures.`);
  if (Number(request.headers.get('content-length') ?? 0) > limit) return tooLarge();
  const stated = Number(request.headers.get('content-length') ?? 0);
  const room = await roomFor(id, Number.isFinite(stated) && stated > 0 ? stated : 0);
  if (!room.ok) return problem(413, 'no-room', room.message);
  const empty = () => problem(400, 'empty', 'This file is empty (0 bytes). The copy or download was probably cut short: fetch it again.');
  if (!request.body) return empty();
  const name = shownName(new URL(request.url).searchParams.get('name') ?? '');
  try {
    const blob = await storeBlob(database(), request.body as unknown as AsyncIterable<Uint8Array>, limit);
    if (blob.size === 0) {
      await removeBlob(database(), blob.id);
      return empty();
    }
    // What came without a stated length, or beside others, is held to the same.
    const stored = await roomFor(id, blob.size);
    if (!stored.ok) {
      await removeBlob(database(), blob.id);
      return problem(413, 'no-room', stored.message);
    }
    // The same bytes again: the pages that are there already serve.
    const same = await sameFile(database(), id, blob.sha256);
    if (same) {
      await removeBlob(database(), blob.id);
      if (same.status === 'failed' || same.status === 'cancelled') await readAgain(database(), same, same.password);
      return json({ id: same.id, same: same.name }, 201);
    }
    return json({ id: await attachFile(database(), id, blob.id, name) }, 201);
  } catch (error) {
    if (error instanceof TooLarge) return tooLarge();
    if (request.signal.aborted) return problem(499, 'interrupted', 'The upload was interrupted. Send the file again.');
    throw error;
  }
});
