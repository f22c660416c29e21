import { existsSync, statSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { ReadFailure, type FailureCode, type FileFacts, type ReadOptions, type ReadPage } from '@calque/reader';

interface Message { facts?: FileFacts; page?: ReadPage; done?: boolean; failure?: { code: FailureCode; message: string } }

const MAX_HEAP_MB = 2048;

/** Reads a file within limits of time and memory. */
export async function readLimited(file: string, options: ReadOptions, seconds: number): Promise<{ facts: FileFacts; pages: ReadPage[] }> {
  if (!existsSync(file)) throw new ReadFailure('unknown-kind', `There is no file ${file}.`);
  if (!statSync(file).isFile()) throw new ReadFailure('unknown-kind', `${file} is not a file.`);
  const worker = new Worker(new URL('./cli-worker.mjs', import.meta.url), {
    workerData: { file, options }, resourceLimits: { maxOldGenerationSizeMb: MAX_HEAP_MB },
  });
  const pages: ReadPage[] = [];
  let facts: FileFacts | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      const timer = setTimeout(() => reject(new ReadFailure('too-long', `Reading took longer than ${seconds} s and was stopped. --seconds allows more.`)), seconds * 1000);
      worker.on('message', (message: Message) => {
        if (message.facts) facts = message.facts;
        if (message.page) pages.push(message.page);
        if (message.failure) reject(new ReadFailure(message.failure.code, message.failure.message));
        if (message.done) resolve();
        if (message.done || message.failure) clearTimeout(timer);
      });
      worker.on('error', () => {
        clearTimeout(timer);
        reject(new ReadFailure('too-large', 'This file unpacks to more than reading may use and was stopped.'));
      });
    });
  } finally {
    void worker.terminate();
  }
  return { facts: facts!, pages };
}
