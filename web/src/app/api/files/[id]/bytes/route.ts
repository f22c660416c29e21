import { blobFacts, findFile } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { blobStream } from '@/server/files';

/** The file as it came. It never changes, so the browser may keep it. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const file = isUuid(id) ? await findFile(database(), id) : null;
  const blob = file && (await blobFacts(database(), file.blobId));
  if (!file || !blob) return notFound('file');
  return new Response(blobStream(database(), file.blobId), {
    headers: {
      'Content-Type': 'application/octet-stream', 'Content-Length': String(blob.size), 'Cache-Control': 'private, max-age=31536000, immutable',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
    },
  });
});
