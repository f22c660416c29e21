import { attachFile, readAgain, removeBlob, sameFile, storeBlob, TooLarge } from '@calque/store';
import { json, problem } from '@/server/answers';
import { statedLength } from '@/server/bodies';
import { fileInfos, shownName } from '@/server/files';
import { roomFor, uploadLimit } from '@/server/room';
import { projectRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

export const GET = projectRoute('look', async ({ database, project }) =>
  json(await fileInfos(database, project.id)),
);

/** Takes the request's body as a file, streamed into the database; ?name= is shown, never used as a path. */
export const POST = projectRoute('change', async ({ request, database, project: { id }, query }) => {
  const limit = uploadLimit();
  const tooLarge = () =>
    problem(
      413,
      'too-large',
      `The file is larger than the ${Math.round(limit / 1e6)} MB that this installation takes. Split it, or save it with smaller pictures.`,
    );
  const stated = statedLength(request);
  if (stated > limit) return tooLarge();
  const room = await roomFor(id, stated);
  if (!room.ok) return problem(413, 'no-room', room.message);
  const empty = () =>
    problem(
      400,
      'empty',
      'This file is empty (0 bytes). The copy or download was probably cut short: fetch it again.',
    );
  if (!request.body) return empty();
  const name = shownName(query.get('name') ?? '');
  try {
    const blob = await storeBlob(database, request.body as unknown as AsyncIterable<Uint8Array>, limit);
    if (blob.size === 0) {
      await removeBlob(database, blob.id);
      return empty();
    }
    // What came without a stated length, or beside others, is held to the same.
    const stored = await roomFor(id, blob.size);
    if (!stored.ok) {
      await removeBlob(database, blob.id);
      return problem(413, 'no-room', stored.message);
    }
    // The same bytes again: the pages that are there already serve.
    const same = await sameFile(database, id, blob.sha256);
    if (same) {
      await removeBlob(database, blob.id);
      if (same.status === 'failed' || same.status === 'cancelled') await readAgain(database, same);
      return json({ id: same.id, same: same.name }, 201);
    }
    return json({ id: await attachFile(database, id, blob.id, name) }, 201);
  } catch (error) {
    if (error instanceof TooLarge) return tooLarge();
    if (request.signal.aborted)
      return problem(499, 'interrupted', 'The upload was interrupted. Send the file again.');
    throw error;
  }
});
