import { endWithParent } from '@calque/limits';
import { PackageError } from '@calque/core/exchange';
import { openDatabase } from '../database.ts';
import { faultOf } from '../fault.ts';
import { packProject } from './pack.ts';
import type { PackageAnswer, PackageTask } from './protocol.ts';
import { unpackProject } from './unpack.ts';

/** Packs a project to its output, or opens a package that lies on the disk: in a process of its own, held within limits by the one that starts it. */
const LONGEST_QUERY_MS = 5 * 60000;
endWithParent();
const {
  what,
  given,
  database: url,
  secret,
  secretFile,
} = await new Promise<PackageTask>((resolve) => process.once('message', resolve));
if (secret) process.env.CALQUE_SECRET = secret;
if (secretFile) process.env.CALQUE_SECRET_FILE = secretFile;
const answer = (message: PackageAnswer) =>
  new Promise<void>((resolve) => {
    if (process.send) process.send(message, undefined, undefined, () => resolve());
    else resolve();
  });
const database = openDatabase(url, { connections: 2, queryMs: LONGEST_QUERY_MS });
try {
  if (what === 'unpack') await answer({ type: 'opened', id: await unpackProject(database, given) });
  else
    await answer(
      (await packProject(database, given, process.stdout, new Date().toISOString()))
        ? { type: 'packed' }
        : { type: 'failure', code: 'no-project', message: '' },
    );
} catch (error) {
  const fault = faultOf(error);
  await answer(
    error instanceof PackageError
      ? { type: 'failure', code: error.code, message: error.message }
      : fault.kind === 'refused'
        ? { type: 'failure', code: 'damaged', message: `The package is damaged: ${fault.words}.` }
        : { type: 'failure', code: fault.kind === 'away' ? 'away' : 'server', message: fault.words },
  );
}
process.exit(0);
