import { findSheet } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { blobStream } from '@/server/files';

/** The sheet's linework with its index, in the stored binary form. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string; page: string }> }): Promise<Response> => answering(async () => {
  const { id, page } = await params;
  const sheet = isUuid(id) && /^\d{1,6}$/.test(page) ? await findSheet(database(), id, Number(page)) : null;
  if (!sheet?.lineworkBlobId) return notFound('sheet');
  return new Response(blobStream(database(), sheet.lineworkBlobId), {
    headers: { 'Content-Type': 'application/octet-stream', ETag: `"${sheet.lineworkBlobId}"`, 'Cache-Control': 'private, max-age=31536000, immutable' },
  });
});
