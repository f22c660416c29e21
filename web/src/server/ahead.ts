import 'server-only';
import { isUuid } from '@calque/core/texts';
import { findProject, sheetsOnTable } from '@calque/store';
import { database } from './database';

/**
 * Sheets that the page of a project will ask for, so that the browser can fetch them while it still loads the application. Only a head
 * start: whether they may be seen is said where they are fetched, and where the database does not answer, the page says so.
 */
export async function sheetsAhead(projectId: string): Promise<{ fileId: string; page: number }[]> {
  if (!isUuid(projectId)) return [];
  const project = await findProject(database(), projectId).catch(() => null);
  return project && !project.deleted ? sheetsOnTable(database(), projectId).catch(() => []) : [];
}
