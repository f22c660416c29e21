import { findSheet } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';

export const GET = (_: Request, { params }: { params: Promise<{ id: string; page: string }> }): Promise<Response> => answering(async () => {
  const { id, page } = await params;
  const sheet = isUuid(id) && /^\d{1,6}$/.test(page) ? await findSheet(database(), id, Number(page)) : null;
  if (!sheet?.picture) return notFound('sheet');
  return new Response(new Uint8Array(sheet.picture), { headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000' } });
});
