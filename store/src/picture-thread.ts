import { parentPort } from 'node:worker_threads';
import { databaseUrl, openDatabase } from './database.ts';
import { projectPicture } from './project-picture.ts';
import { keepPicture, loadProject } from './projects.ts';
import { answerTasks } from './thread-answer.ts';

/** Draws pictures of projects beside the thread that serves, and keeps each for the state that it shows. */
const database = openDatabase(databaseUrl(), { connections: 1 });
answerTasks<{ projectId: string }>(parentPort!, async ({ projectId }) => {
  const project = await loadProject(database, projectId);
  if (!project) return null;
  const svg = await projectPicture(database, projectId, project.entities);
  await keepPicture(database, projectId, project.seq, svg);
  return svg;
});
