import { listShelf } from '@calque/store';
import { json } from '@/server/answers';
import { installationRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

export const GET = installationRoute('look', async ({ database }) => json(await listShelf(database)));
