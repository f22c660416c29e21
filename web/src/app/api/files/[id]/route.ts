import { findFile, loadEntities, readAgain, removeFile, setFileState } from '@calque/store';
import { database } from '@/server/database';
import { answering, foreign, isUuid, json, notFound, problem } from '@/server/answers';
import { fileAction } from '@/server/schemas';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const { id } = await params;
  const { action, password, millimetresPerUnit } = await fileAction.validate(await request.json());
  const file = isUuid(id) ? await findFile(database(), id) : null;
  if (!file) return notFound('file');
  if (action === 'cancel') await setFileState(database(), file, { status: 'cancelled', message: 'Reading was stopped.' }, ['waiting', 'reading']);
  else await readAgain(database(), file, password, millimetresPerUnit ?? file.millimetresPerUnit);
  return json({ ok: true });
});

export const DELETE = (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const { id } = await params;
  const file = isUuid(id) ? await findFile(database(), id) : null;
  if (!file) return notFound('file');
  const used = (await loadEntities(database(), file.projectId)).filter((e) => e.type === 'underlay' && e.fileId === id);
  if (used.length > 0) return problem(409, 'in-use', `${used.length === 1 ? 'An underlay lies' : `${used.length} underlays lie`} on the table from this file. Remove ${used.length === 1 ? 'it' : 'them'} first.`);
  await removeFile(database(), file);
  return json({ ok: true });
});
