import { readAgain, removeFile, setFileState } from '@calque/store';
import { json, problem } from '@/server/answers';
import { bodyJson } from '@/server/bodies';
import { fileRoute } from '@/server/route';
import { fileAction } from '@/server/schemas';

export const POST = fileRoute('change', async ({ request, database, file }) => {
  const { action, password, millimetresPerUnit } = await fileAction.validate(await bodyJson(request));
  if (action === 'cancel')
    await setFileState(database, file, { status: 'cancelled', message: 'Reading was stopped.' }, [
      'waiting',
      'reading',
    ]);
  else
    await readAgain(database, file, {
      ...(password !== null && { password }),
      ...(millimetresPerUnit !== null && { millimetresPerUnit }),
    });
  return json({ ok: true });
});

export const DELETE = fileRoute('change', async ({ database, file }) => {
  const used = await removeFile(database, file);
  if (used > 0)
    return problem(
      409,
      'in-use',
      `${used === 1 ? 'An underlay lies' : `${used} underlays lie`} on the table from this file. Remove ${used === 1 ? 'it' : 'them'} first.`,
    );
  return json({ ok: true });
});
