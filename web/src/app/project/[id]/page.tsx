import { preload } from 'react-dom';
import { lineworkUrl, projectUrl } from '@/project/addresses';
import { isUuid } from '@/server/answers';
import { database } from '@/server/database';
import { ProjectPage } from '@/shell/project-page';
import { sheetsOnTable } from '@calque/store';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  // Only a head start: where the database does not answer, the page itself says so and tries again.
  const sheets = isUuid(id) ? await sheetsOnTable(database(), id).catch(() => []) : [];
  // The browser fetches the project and its sheets while it still loads the application.
  for (const url of [projectUrl(id), ...sheets.map((s) => lineworkUrl(s.fileId, s.page))]) preload(url, { as: 'fetch', crossOrigin: 'anonymous' });
  return <ProjectPage projectId={id} sheets={sheets} />;
}
