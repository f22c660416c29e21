import { journal } from '@calque/journal';
import { endWithParent, wallsHere } from '@calque/limits';
import { databaseUrl, openDatabase } from '@calque/store';
import { readingService } from './reading-service.ts';
import { settings } from './settings.ts';

/** The reader: takes jobs from the queue. Any number may run, on any machine that reaches the database. */
const database = openDatabase(databaseUrl(), { connections: settings().atOnce + 4 });
// Told to whoever supervises, and written down.
const walls = wallsHere();
journal('reader')[walls === 'walls' ? 'info' : 'warn']({ walls }, 'reading');
process.send?.({ walls });
const service = await readingService(database, databaseUrl());
const PATIENCE_MS = 500;
let stopping = false;
const stop = () => {
  if (stopping) return;
  stopping = true;
  // What is being read is begun anew by whoever comes next: nobody waits for it.
  setTimeout(() => process.exit(0), PATIENCE_MS);
  void service
    .stop()
    .catch(() => {})
    .then(() => database.$client.end())
    .finally(() => process.exit(0));
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
endWithParent(stop);
await service.ended;
// Whoever started it starts it again; what it was reading is taken up.
if (!stopping) process.exit(1);
