import { readFileSync, writeFileSync } from 'node:fs';
import { writePyramid } from '../picture/pyramid.ts';
import { pageFacts } from './page-facts.ts';
import { join } from 'node:path';
import { encodeLinework } from '@calque/core/linework';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { asFailure } from '../failure.ts';
import { readFile } from '../read-file.ts';
import { endWithParent } from '@calque/limits';
import { warmUp } from './warm-up.ts';
import { lineworkFile, type Begin, type ChildMessage } from './protocol.ts';

/** Reads one file in a process of its own: a bad file can only end this process. */
endWithParent();
const send = (message: ChildMessage) =>
  new Promise<void>((resolve) => process.send!(message, undefined, undefined, () => resolve()));

// Its modules are loaded while the file is still fetched; one that was started ahead has read a sheet of its own before, so that its
// code is compiled and its engine known.
const given = new Promise<Begin>((resolve) => process.once('message', resolve));
if (process.env.CALQUE_WARM) await warmUp().catch(() => {});
const { task } = await given;
/** Where things lie is the same before and after their kinds are told. */
let index: { page: number; bytes: ArrayBuffer } | null = null;
try {
  await readFile(
    new Uint8Array(readFileSync(task.source)),
    {
      password: task.password ?? undefined,
      maxMegabytes: task.maxMegabytes,
      picturePixels: task.picturePixels,
      keepHidden: true,
      linesFirst: true,
      millimetresPerUnit: task.millimetresPerUnit ?? undefined,
    },
    ({ drawing, ...facts }) => {
      if (drawing) writeFileSync(join(task.results, 'drawing.pdf'), drawing);
      void send({ type: 'facts', ...facts, drawing: drawing !== undefined });
    },
    async (read) => {
      const { page, linework, picture, whole } = read;
      if (index?.page !== page) index = { page, bytes: indexBytes(buildSheetIndex(linework)) };
      writeFileSync(join(task.results, lineworkFile(page, whole)), encodeLinework(linework, index.bytes));
      if (picture) writeFileSync(join(task.results, `${page}.png`), picture);
      if (read.pixels) await writePyramid(task.source, page, join(task.results, `${page}.tiles`));
      await send({ type: 'page', ...pageFacts(read) });
    },
  );
  await send({ type: 'done' });
} catch (error) {
  const failure = asFailure(error);
  await send({ type: 'failure', code: failure.code, message: failure.message });
}
process.exit(0);
