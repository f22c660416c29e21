import { existsSync, statSync } from 'node:fs';
import { resolve as whole } from 'node:path';
import { fileURLToPath } from 'node:url';
import { limitedChild } from '@calque/limits';
import {
  ReadFailure,
  type FailureCode,
  type FileFacts,
  type ReadOptions,
  type ReadPage,
} from '@calque/reader';

/** What the reading process is told, and what it says. */
export interface ReadTask {
  file: string;
  options: ReadOptions;
}
export type ReadMessage =
  | { facts: FileFacts }
  | { page: ReadPage }
  | { done: true }
  | { failure: { code: FailureCode; message: string } };

const HEAP_MB = 1536,
  MEGABYTES = 2600;

/** Reads a file in a process of its own, within limits of time and memory. */
export async function readLimited(
  file: string,
  options: ReadOptions,
  seconds: number,
): Promise<{ facts: FileFacts; pages: ReadPage[] }> {
  if (!existsSync(file)) throw new ReadFailure('unknown-kind', `There is no file ${file}.`);
  if (!statSync(file).isFile()) throw new ReadFailure('unknown-kind', `${file} is not a file.`);
  // Its own complaints would only repeat, in the words of an engine, what is told here.
  const child = limitedChild(
    fileURLToPath(new URL('./cli-child.mjs', import.meta.url)),
    { heapMegabytes: HEAP_MB, megabytes: MEGABYTES, seconds },
    {
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      walls: { readable: [whole(file)] },
    },
  );
  const pages: ReadPage[] = [];
  let facts: FileFacts | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      child.process.on('message', (message: ReadMessage) => {
        if ('facts' in message) facts = message.facts;
        else if ('page' in message) pages.push(message.page);
        else if ('failure' in message) reject(new ReadFailure(message.failure.code, message.failure.message));
        else resolve();
      });
      child.process.once('error', reject);
      child.process.once('exit', () =>
        reject(
          child.overrun() === 'too-long'
            ? new ReadFailure(
                'too-long',
                `Reading took longer than ${seconds} s and was stopped. --seconds allows more.`,
              )
            : new ReadFailure('too-large', 'This file unpacks to more than reading may use and was stopped.'),
        ),
      );
      child.send({ file: whole(file), options } satisfies ReadTask as never);
    });
  } finally {
    child.kill();
  }
  return { facts: facts!, pages };
}
