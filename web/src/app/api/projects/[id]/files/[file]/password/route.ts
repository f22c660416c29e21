import { passwordOf } from '@calque/store';
import { json, notFound } from '@/server/answers';
import { fileRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** The password of a protected file, for what draws its pages in the browser, and for nobody else. */
export const GET = fileRoute('look', async ({ database, project, file }) => {
  // The copy with all layers on, from which others are drawn, has none.
  const isNeeded = file.kind === 'pdf' && file.status === 'ready' && file.drawingBlobId === null;
  const password = isNeeded ? await passwordOf(database, project.id, file.id) : null;
  return password === null ? notFound('password') : json({ password });
});
