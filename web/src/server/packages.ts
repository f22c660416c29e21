import 'server-only';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { limitedChild, numberSetting, type LimitedChild } from '@calque/limits';
import { databaseUrl, type PackageAnswer, type PackageTask } from '@calque/store';
import { Refused } from './answers';
import { takenStream } from './byte-stream';
import { packageLimit } from './room';
import { programPath } from './threads';

/** Packages are packed and opened by a child: what they hold cannot harm, slow or swell this process. */
const limits = () => ({
  heapMegabytes: 1024,
  megabytes: numberSetting('CALQUE_PACKAGE_MEMORY_MB', 1600),
  seconds: numberSetting('CALQUE_PACKAGE_SECONDS', 900),
});
/** So many at once; others wait. */
const MOST_AT_ONCE = 2;
let running = 0;
const turns: (() => void)[] = [];

async function child(
  what: PackageTask['what'],
  given: string,
  output: 'ignore' | 'pipe',
): Promise<{ process: LimitedChild; answer: Promise<PackageAnswer> }> {
  if (running >= MOST_AT_ONCE) await new Promise<void>((resolve) => turns.push(resolve));
  running++;
  const started = limitedChild(programPath('package-child'), limits(), {
    stdio: ['ignore', output, 'inherit', 'ipc'],
    env: { PATH: process.env.PATH, TMPDIR: process.env.TMPDIR, NODE_ENV: 'production' },
  });
  // By the channel: what is told at its start is seen by others.
  started.send({
    what,
    given,
    database: databaseUrl(),
    secret: process.env.CALQUE_SECRET ?? null,
    secretFile: process.env.CALQUE_SECRET_FILE ?? null,
  } satisfies PackageTask);
  const answer = new Promise<PackageAnswer>((resolve) => {
    let said: PackageAnswer | null = null;
    started.process.on('message', (message: PackageAnswer) => {
      said = message;
    });
    started.process.once('error', (error) => {
      said ??= { type: 'failure', code: 'server', message: error.message };
    });
    started.process.once('close', () => {
      running--;
      turns.shift()?.();
      resolve(
        said ?? {
          type: 'failure',
          code: 'too-large',
          message:
            started.overrun() === 'too-long'
              ? 'Opening this package took too long and was stopped.'
              : 'This package unpacks to more than opening one may use and was stopped.',
        },
      );
    });
  });
  return { process: started, answer };
}

/** Answers that are refusals of the package, by their HTTP status. */
const STATUS: Record<string, number> = { 'no-project': 404, away: 503, server: 500 };

/** Takes a request's body as a package and opens it as a new project; nothing is left of one that is refused. */
export async function unpackUpload(body: ReadableStream<Uint8Array>): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'calque-package-'));
  try {
    const path = join(folder, 'package');
    await pipeline(Readable.fromWeb(body as never), bounded(packageLimit()), createWriteStream(path)).catch(
      (error: NodeJS.ErrnoException) => {
        if (error.code === 'ENOSPC')
          throw new Refused(
            507,
            'no-room',
            'There is no room left in the temporary folder of the server. Make room there, then open the package again.',
          );
        throw error;
      },
    );
    const answer = await (await child('unpack', path, 'ignore')).answer;
    if (answer.type === 'opened') return answer.id;
    throw answer.type === 'failure'
      ? new Refused(STATUS[answer.code] ?? 400, answer.code, answer.message)
      : new Error('The child answered something else.');
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const bounded = (limit: number) =>
  async function* (source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    let size = 0;
    for await (const part of source) {
      if ((size += part.length) > limit)
        throw new Refused(
          413,
          'too-large',
          `The package is larger than the ${Math.round(limit / 1e6)} MB that this installation opens. CALQUE_MAX_PACKAGE_MB allows more.`,
        );
      yield part;
    }
  };

/** The project packed, as it comes from the child; null where there is no such project. */
export async function packedStream(projectId: string): Promise<ReadableStream<Uint8Array> | null> {
  const { process: started, answer } = await child('pack', projectId, 'pipe');
  const source = (started.process.stdout as Readable)[Symbol.asyncIterator]() as AsyncIterator<Uint8Array>;
  // The first bytes tell whether there is a package at all.
  const first = await source.next();
  if (first.done) {
    const said = await answer;
    if (said.type === 'failure' && said.code !== 'no-project')
      throw new Refused(
        STATUS[said.code] ?? 500,
        said.code,
        said.message || 'The package could not be made.',
      );
    return null;
  }
  async function* all(): AsyncGenerator<Uint8Array> {
    yield first.value as Uint8Array;
    for (;;) {
      const { value, done } = await source.next();
      if (done) break;
      yield value;
    }
    // A package that breaks off must not look like a whole one.
    if ((await answer).type !== 'packed') throw new Error('The package broke off.');
  }
  return takenStream(all(), () => started.kill());
}
