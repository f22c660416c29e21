import { attacks } from './attacks.ts';
import { backup } from './backup/backup.ts';
import { restore } from './backup/restore.ts';
import { bench } from './bench.ts';
import { endAll, hearSignals, isEnding } from './ending.ts';
import { faults } from './faults.ts';
import { load } from './load.ts';
import { ensureFor } from './needed.ts';
import { migrate, reader, web } from './single-parts.ts';
import { several } from './several.ts';
import { start } from './start.ts';
import { check, test } from './test.ts';

hearSignals();
/** These go on until a signal ends them. */
const STAYING = ['start', 'web', 'reader'];
const commands: Record<string, (args: readonly string[]) => Promise<void>> = {
  start,
  test,
  check,
  bench,
  faults,
  attacks,
  load,
  several,
  backup,
  restore,
  web,
  reader,
  migrate,
};
try {
  const [, , command, ...more] = process.argv;
  // Root does this for somebody else's clone, and no more (see ./calque).
  if (command === 'debian') await ensureFor(more[0]);
  else {
    await ensureFor(command);
    await commands[command](more);
  }
  if (!STAYING.includes(command)) await endAll(0);
} catch (error) {
  // What fails because this program ends is no failure.
  if (!isEnding()) console.error(error instanceof Error ? error.message : error);
  await endAll(1);
}
