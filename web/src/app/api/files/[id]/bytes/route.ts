import { blobFacts, findFile } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { blobStream } from '@/server/files';

/** The file as it came; with ?for=drawing the copy with all its layers on, where there is one. Neither ever changes, so the browser may keep it. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const file = isUuid(id) ? await findFile(database(), id) : null;
  // The copy has an address of its own and is never stood in for: what is answered here is kept for good.
  const blobId = new URL(request.url).searchParams.get('for') === 'drawing' ? file?.drawingBlobId : file?.blobId;
  const blob = blobId ? await blobFacts(database(), blobId) : null;
  if (!file || !blobId || !blob) return notFound('file');
  return new Response(blobStream(database(), blobId), {
    headers: {
      'Content-Type': 'application/octet-stream', 'Content-Length': String(blob.size), 'Cache-Control': 'private, max-age=31536000, immutable',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
    },
  });
});
