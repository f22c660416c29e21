import { parentPort } from 'node:worker_threads';
import { takeChanges } from './changes-request.ts';
import { databaseUrl, openDatabase } from './database.ts';
import { answerTasks } from './thread-answer.ts';

/** Takes long steps beside the thread that serves: their parsing, checking and writing keep nobody waiting. */
const LONGEST_QUERY_MS = 60000;
const database = openDatabase(databaseUrl(), { connections: 2, queryMs: LONGEST_QUERY_MS });
answerTasks<{ projectId: string; body: Uint8Array }>(parentPort!, ({ projectId, body }) =>
  takeChanges(database, projectId, new TextDecoder().decode(body)),
);
