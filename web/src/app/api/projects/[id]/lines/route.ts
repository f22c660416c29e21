import { FORM } from '@calque/core/formats';
import { projectLines } from '@calque/store';
import { notFound } from '@/server/answers';
import { takenStream } from '@/server/byte-stream';
import { fileInfos } from '@/server/files';
import { projectRoute } from '@/server/route';
import type { ProjectHead } from '@/project/wire';

export const dynamic = 'force-dynamic';

/**
 * The project as lines of JSON, so that a page can show it while it comes: first a ProjectHead, then an entity on each line, what others
 * lie on before what lies on it. A stream that ends before as many have come as its head says has broken off.
 */
export const GET = projectRoute('look', async ({ database, project: { id } }) => {
  const [project, files] = await Promise.all([projectLines(database, id), fileInfos(database, id)]);
  if (!project) return notFound('project');
  const { seq, count, lines } = project;
  const head = JSON.stringify({ form: FORM, seq, count, files } satisfies ProjectHead);
  async function* all(): AsyncGenerator<Uint8Array> {
    yield new TextEncoder().encode(`${head}\n`);
    yield* lines;
  }
  return new Response(takenStream(all()), {
    headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store' },
  });
});
