import { blobFacts } from '@calque/store';
import { notFound } from '@/server/answers';
import { asAttachment, blobStream } from '@/server/files';
import { fileRoute } from '@/server/route';

/** The file as it came; with ?for=drawing the copy with all its layers on, where there is one. Neither ever changes, so the browser may keep it. */
export const GET = fileRoute('look', async ({ database, file, query }) => {
  // The copy has an address of its own and is never stood in for: what is answered here is kept for good.
  const blobId = query.get('for') === 'drawing' ? file.drawingBlobId : file.blobId;
  const blob = blobId ? await blobFacts(database, blobId) : null;
  if (!blobId || !blob) return notFound('file');
  return new Response(blobStream(database, blobId), {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(blob.size),
      'Cache-Control': 'private, max-age=31536000, immutable',
      'Content-Disposition': asAttachment(file.name),
    },
  });
});
