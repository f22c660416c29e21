import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { encodeLinework, scaleNotes } from '@calque/core/linework';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { ReadFailure } from '../failure.ts';
import { readFile } from '../read-file.ts';
import type { ChildMessage, ChildTask } from './protocol.ts';

/** Reads one file in a process of its own: a bad file can only end this process. */
const task = JSON.parse(process.argv[2]) as ChildTask;
const send = (message: ChildMessage) => new Promise<void>((resolve) => process.send!(message, undefined, undefined, () => resolve()));

try {
  await readFile(
    new Uint8Array(readFileSync(task.source)),
    { password: task.password ?? undefined, maxMegabytes: task.maxMegabytes, picturePixels: task.picturePixels, keepHidden: true },
    (facts) => void send({ type: 'facts', ...facts }),
    async ({ page, linework, milliseconds, picture }) => {
      writeFileSync(join(task.results, `${page}.cqlw`), encodeLinework(linework, indexBytes(buildSheetIndex(linework))));
      if (picture) writeFileSync(join(task.results, `${page}.png`), picture);
      const { width, height, content, counts, leftOut, layers } = linework;
      await send({ type: 'page', page, width, height, content, counts, leftOut, layers, scaleNotes: scaleNotes(linework.texts), milliseconds });
    },
  );
  await send({ type: 'done' });
} catch (error) {
  const failure = error instanceof ReadFailure ? error : new ReadFailure('engine', error instanceof Error ? error.message : String(error));
  await send({ type: 'failure', code: failure.code, message: failure.message });
}
process.disconnect();
