import { notFound } from '@/server/answers';
import { asAttachment } from '@/server/files';
import { packedStream } from '@/server/packages';
import { projectRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** The project as a .calque package. */
export const GET = projectRoute('look', async ({ project }) => {
  const packed = await packedStream(project.id);
  return packed
    ? new Response(packed, {
        headers: {
          'Content-Type': 'application/zip',
          'Content-Disposition': asAttachment(`${project.name.replace(/[/\\]/g, '-')}.calque`),
          'Cache-Control': 'no-store',
        },
      })
    : notFound('project');
});
