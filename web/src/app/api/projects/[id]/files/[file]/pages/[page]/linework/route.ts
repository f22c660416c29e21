import { findSheet } from '@calque/store';
import { notFound } from '@/server/answers';
import { blobStream } from '@/server/files';
import { fileRoute, smallNumber } from '@/server/route';

/** The sheet's linework with its index, in the stored binary form. */
export const GET = fileRoute('look', async ({ database, project, file, params }) => {
  const page = smallNumber(params.page);
  const sheet = page === null ? null : await findSheet(database, project.id, file.id, page);
  if (!sheet?.lineworkBlobId) return notFound('sheet');
  return new Response(blobStream(database, sheet.lineworkBlobId), {
    headers: {
      'Content-Type': 'application/octet-stream',
      ETag: `"${sheet.lineworkBlobId}"`,
      'Cache-Control': 'private, max-age=31536000, immutable',
    },
  });
});
