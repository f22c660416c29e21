import { preload } from 'react-dom';
import { lineworkUrl, linesUrl } from '@/project/addresses';
import { sheetsAhead } from '@/server/ahead';
import { ProjectPage } from '@/shell/project-page';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const sheets = await sheetsAhead(id);
  // The browser fetches the project and its sheets while it still loads the application.
  for (const url of [linesUrl(id), ...sheets.map((s) => lineworkUrl(id, s.fileId, s.page))])
    preload(url, { as: 'fetch', crossOrigin: 'anonymous' });
  return <ProjectPage projectId={id} sheets={sheets} />;
}
