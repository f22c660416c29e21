import { findSheet } from '@calque/store';
import { notFound } from '@/server/answers';
import { blobStream } from '@/server/files';
import { fileRoute, smallNumber } from '@/server/route';
import { WHOLE, type Whole } from '@calque/core/linework';

const UNDER_WAY: ReadonlySet<string> = new Set(['waiting', 'reading']);

/** The sheet's linework with its index, in the stored binary form. What is not whole is not kept: the same address gives more later. */
export const GET = fileRoute('look', async ({ database, project, file, params }) => {
  const page = smallNumber(params.page);
  const sheet = page === null ? null : await findSheet(database, project.id, file.id, page);
  if (!sheet?.lineworkBlobId) return notFound('sheet');
  const whole: Whole = sheet.whole ? 'yes' : UNDER_WAY.has(file.status) ? 'later' : 'never';
  return new Response(blobStream(database, sheet.lineworkBlobId), {
    headers: {
      'Content-Type': 'application/octet-stream',
      ETag: `"${sheet.lineworkBlobId}"`,
      'Cache-Control': sheet.whole ? 'private, max-age=31536000, immutable' : 'no-store',
      [WHOLE]: whole,
    },
  });
});
