import { findProject, keepPicture, keptPicture } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { drawPicture } from '@/server/threads';

export const dynamic = 'force-dynamic';

/** What stands where a picture could not be drawn. */
const NONE = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 400"><rect width="640" height="400" fill="#dfe3e0"/><text x="320" y="205" text-anchor="middle" font-family="sans-serif" font-size="18" fill="#55616d">too much for a picture</text></svg>';

/** The project at a glance, drawn once for each state of it. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const project = isUuid(id) ? await findProject(database(), id) : null;
  if (!project) return notFound('project');
  const kept = await keptPicture(database(), id);
  return svg(kept?.seq === project.seq ? kept.svg : await drawn(id, project.seq));
});

async function drawn(id: string, seq: number): Promise<string> {
  try {
    return (await drawPicture(id)) ?? NONE;
  } catch (error) {
    console.error(`The picture of project ${id} could not be drawn: ${error instanceof Error ? error.message : String(error)}`);
    // Not tried again for the same state.
    await keepPicture(database(), id, seq, NONE);
    return NONE;
  }
}

const svg = (text: string) => new Response(text, { headers: { 'Content-Type': 'image/svg+xml', 'Cache-Control': 'private, no-cache', 'Content-Security-Policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'" } });
