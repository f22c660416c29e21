import { findSheet } from '@calque/store';
import { notFound } from '@/server/answers';
import { fileRoute, smallNumber } from '@/server/route';

export const GET = fileRoute('look', async ({ database, project, file, params }) => {
  const page = smallNumber(params.page);
  const sheet = page === null ? null : await findSheet(database, project.id, file.id, page);
  if (!sheet?.picture) return notFound('sheet');
  return new Response(new Uint8Array(sheet.picture), {
    headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000' },
  });
});
