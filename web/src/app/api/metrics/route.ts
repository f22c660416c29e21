import { metricsText } from '@/server/metrics';
import { installationRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

export const GET = installationRoute('oversee', async () => {
  const { type, text } = await metricsText();
  return new Response(text, { headers: { 'Content-Type': type, 'Cache-Control': 'no-store' } });
});
