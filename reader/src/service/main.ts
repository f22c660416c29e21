import { Logger, run } from 'graphile-worker';
import { databaseUrl, openDatabase, READ_TASK } from '@calque/store';
import { readTask } from './read-task.ts';
import { settings } from './settings.ts';

/** The reader: takes jobs from the queue. Any number may run, on any machine that reaches the database. */
const database = openDatabase(databaseUrl(), 4);
const runner = await run({
  connectionString: databaseUrl(),
  concurrency: settings().atOnce,
  pollInterval: 1000,
  noHandleSignals: true,
  logger: new Logger(() => (level, message) => { if (level === 'error') console.error(message); }),
  taskList: {
    [READ_TASK]: async (payload) => readTask(database, (payload as { fileId: string }).fileId),
  },
});
let stopping = false;
const stop = () => {
  if (stopping) return;
  stopping = true;
  void runner.stop().catch(() => {}).then(() => database.$client.end()).finally(() => process.exit(0));
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
await runner.promise;
