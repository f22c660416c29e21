import { findFile, readAgain, removeFile, setFileState } from '@calque/store';
import { database } from '@/server/database';
import { answering, foreign, isUuid, json, notFound, problem } from '@/server/answers';
import { bodyJson } from '@/server/bodies';
import { fileAction } from '@/server/schemas';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context): Promise<Response> => answering(async () => {
  const refused = foreign(request);
  if (refused) return refused;
  const { id } = await params;
  const { action, password, millimetresPerUnit } = await fileAction.validate(await bodyJson(request));
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
  const used = await removeFile(database(), file);
  if (used > 0) return problem(409, 'in-use', `${used === 1 ? 'An underlay lies' : `${used} underlays lie`} on the table from this file. Remove ${used === 1 ? 'it' : 'them'} first.`);
  return json({ ok: true });
});
