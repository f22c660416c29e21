import { findProject } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { packedStream } from '@/server/packages';

export const dynamic = 'force-dynamic';

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const project = isUuid(id) ? await findProject(database(), id) : null;
  const packed = project && !project.deleted ? await packedStream(id) : null;
  if (!project || !packed) return notFound('project');
  const name = encodeURIComponent(`${project.name.replace(/[/\\]/g, '-')}.calque`);
  return new Response(packed, { headers: { 'Content-Type': 'application/zip', 'Content-Disposition': `attachment; filename*=UTF-8''${name}`, 'Cache-Control': 'no-store' } });
});
