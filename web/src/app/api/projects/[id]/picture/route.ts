import { keepPicture, keptPicture, type Database } from '@calque/store';
import { projectRoute } from '@/server/route';
import { drawPicture } from '@/server/threads';
import { reported } from '@/server/answers';

export const dynamic = 'force-dynamic';

/** What stands where a picture could not be drawn. */
const NONE =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 400"><rect width="640" height="400" fill="#dfe3e0"/><text x="320" y="205" text-anchor="middle" font-family="sans-serif" font-size="18" fill="#55616d">too much for a picture</text></svg>';

/** The project at a glance, drawn once for each state of it. */
export const GET = projectRoute('look', async ({ request, database, project: { id, seq } }) => {
  const kept = await keptPicture(database, id);
  return svg(kept?.seq === seq ? kept.svg : await drawn(request, database, id, seq));
});

async function drawn(request: Request, database: Database, id: string, seq: number): Promise<string> {
  try {
    return (await drawPicture(id)) ?? NONE;
  } catch (error) {
    reported(request, error, 'a picture could not be drawn');
    // Not tried again for the same state.
    await keepPicture(database, id, seq, NONE);
    return NONE;
  }
}

const svg = (text: string) =>
  new Response(text, {
    headers: {
      'Content-Type': 'image/svg+xml',
      'Cache-Control': 'private, no-cache',
      'Content-Security-Policy':
        "default-src 'none'; img-src data:; style-src 'unsafe-inline'; frame-ancestors 'none'",
    },
  });
