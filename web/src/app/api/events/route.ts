import { findProjects } from '@calque/store';
import { isUuid } from '@calque/core/texts';
import { problem } from '@/server/answers';
import { mayDo } from '@/server/access';
import { onNotices } from '@/server/events';
import { streamsOpen } from '@/server/metrics';
import { installationRoute } from '@/server/route';
import type { Notice } from '@/project/wire';

export const dynamic = 'force-dynamic';

/** Keeps proxies from closing a quiet stream. */
const BEAT_MS = 20000;
/** One browser does not have more projects open at once. */
const MOST_PROJECTS = 100;
/** What is waiting for a page that reads nothing; then its stream is closed, and it asks anew. */
const MOST_WAITING = 500;

/** Server-sent events: that one of ?projects=, its changes or its files are new. The pages then ask for what they lack. */
export const GET = installationRoute('look', async ({ request, database, person, query }) => {
  const ids = [...new Set((query.get('projects') ?? '').split(','))];
  if (ids.length > MOST_PROJECTS || !ids.every(isUuid))
    return problem(400, 'invalid', `"projects" names 1 to ${MOST_PROJECTS} projects.`);
  // Of a project that somebody may not see nothing is heard.
  const projects = await findProjects(database, ids),
    heard = projects.filter((p) => mayDo(person, 'look', p));
  const encoder = new TextEncoder();
  let stop = () => {};
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (text: string) => {
        try {
          if ((controller.desiredSize ?? 0) < -MOST_WAITING) throw new Error('nobody reads');
          controller.enqueue(encoder.encode(text));
        } catch {
          stop();
        }
      };
      const send = (notice: Notice) => say(`data: ${JSON.stringify(notice)}\n\n`);
      const unlisten = await onNotices(
        heard.map((p) => p.id),
        send,
      );
      const beat = setInterval(() => say(': still here\n\n'), BEAT_MS);
      streamsOpen(1);
      let open = true;
      stop = () => {
        if (open) streamsOpen(-1);
        open = false;
        clearInterval(beat);
        unlisten();
        try {
          controller.close();
        } catch {
          // It is closed already.
        }
      };
      request.signal.addEventListener('abort', () => stop());
      // Where each stands now: what came while nobody listened is asked for.
      for (const { id, seq } of await findProjects(
        database,
        heard.map((p) => p.id),
      ))
        send({ projectId: id, what: 'changes', seq });
    },
    cancel: () => stop(),
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' },
  });
});
