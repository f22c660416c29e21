import { readFileSync } from 'node:fs';
import { endWithParent } from '@calque/limits';
import { asFailure, readFile } from '@calque/reader';
import type { ReadMessage, ReadTask } from './read-limited.ts';

/** Reads one file in a process of its own, so that a page without end can be stopped from outside. */
endWithParent();
const send = (message: ReadMessage) =>
  new Promise<void>((resolve) => process.send!(message, undefined, undefined, () => resolve()));
const { file, options } = await new Promise<ReadTask>((resolve) => process.once('message', resolve));
try {
  await readFile(
    new Uint8Array(readFileSync(file)),
    options,
    ({ drawing: _, ...facts }) => void send({ facts }),
    (page) => send({ page }),
  );
  await send({ done: true });
} catch (error) {
  const { code, message } = asFailure(error);
  await send({ failure: { code, message } });
}
process.exit(0);
