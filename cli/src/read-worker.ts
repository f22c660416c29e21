import { readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { readFile, ReadFailure, type ReadOptions } from '@calque/reader';

/** Reads in a thread of its own, so that a page without end can be stopped from outside. */
const { file, options } = workerData as { file: string; options: ReadOptions };
const port = parentPort!;
try {
  await readFile(
    new Uint8Array(readFileSync(file)), options,
    (facts) => port.postMessage({ facts }),
    (page) => {
      const l = page.linework;
      const arrays = Object.values(l).filter((v) => ArrayBuffer.isView(v));
      port.postMessage({ page }, arrays.map((a) => a.buffer as ArrayBuffer));
    },
  );
  port.postMessage({ done: true });
} catch (error) {
  const failure = error instanceof ReadFailure ? error : new ReadFailure('engine', error instanceof Error ? error.message : String(error));
  port.postMessage({ failure: { code: failure.code, message: failure.message } });
}
