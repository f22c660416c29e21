import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { packProject } from '@/server/packages';

export const dynamic = 'force-dynamic';

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const packed = isUuid(id) ? await packProject(database(), id) : null;
  if (!packed) return notFound('project');
  const name = encodeURIComponent(`${packed.name.replace(/[/\\]/g, '-')}.calque`);
  return new Response(packed.bytes as Uint8Array<ArrayBuffer>, { headers: { 'Content-Type': 'application/zip', 'Content-Disposition': `attachment; filename*=UTF-8''${name}`, 'Cache-Control': 'no-store' } });
});
