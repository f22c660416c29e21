import { loadEntities } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { projectPicture } from '@/server/project-picture';

export const dynamic = 'force-dynamic';

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  if (!isUuid(id)) return notFound('project');
  const svg = await projectPicture(database(), await loadEntities(database(), id));
  return new Response(svg, { headers: { 'Content-Type': 'image/svg+xml', 'Cache-Control': 'private, no-cache', 'Content-Security-Policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'" } });
});
