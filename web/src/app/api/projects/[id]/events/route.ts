import { findProject } from '@calque/store';
import { database } from '@/server/database';
import { answering, isUuid, notFound } from '@/server/answers';
import { onNotices } from '@/server/events';
import type { Notice } from '@/project/wire';

export const dynamic = 'force-dynamic';

/** Keeps proxies from closing a quiet stream. */
const BEAT_MS = 20000;

/** Server-sent events: that the project, its changes or its files are new. The page then asks for what it lacks. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => answering(async () => {
  const { id } = await params;
  const project = isUuid(id) ? await findProject(database(), id) : null;
  if (!project) return notFound('project');
  const encoder = new TextEncoder();
  let stop = () => {};
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          stop();
        }
      };
      const send = (notice: Notice) => say(`data: ${JSON.stringify(notice)}\n\n`);
      const unlisten = await onNotices(id, (n) => send(n.what === 'changes' ? { what: n.what, seq: n.seq } : { what: n.what }));
      const beat = setInterval(() => say(': still here\n\n'), BEAT_MS);
      stop = () => {
        clearInterval(beat);
        unlisten();
      };
      request.signal.addEventListener('abort', () => stop());
      send({ what: 'changes', seq: project.seq });
    },
    cancel: () => stop(),
  });
  return new Response(stream, { headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' } });
});
