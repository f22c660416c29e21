import { fileURLToPath } from 'node:url';
import { limitedChild, standBack, type LimitedChild } from '@calque/limits';
import { ReadFailure } from '../failure.ts';
import type { ChildMessage, ChildTask } from './protocol.ts';

export interface ReadingLimits {
  /** Heap of the child, its PDF engine's own memory, and all that it may use, megabytes. */
  heapMegabytes: number;
  megabytes: number;
  /** Longest time without a new page, and in all. */
  secondsPerPage: number;
  secondsPerFile: number;
  /** Asked now and then; true ends the reading. */
  cancelled: () => Promise<boolean>;
}

const ASK_EVERY_MS = 500;
/** Stands beside this program when bundled. */
const READING_CHILD = fileURLToPath(new URL('./reader-child.mjs', import.meta.url));

export class Cancelled extends Error {}

const TOO_LARGE =
  'Reading this file needed more memory than it may use and was stopped. Export the sheet again with fewer objects, or split it.';
const NICE = 10,
  MOST_COMPLAINTS = 2000;

/** What a child may use of memory and time. */
export type ChildRoom = Pick<ReadingLimits, 'heapMegabytes' | 'megabytes' | 'secondsPerFile'>;

/** Starts a child that reads one file into a folder. `warm`: ahead of any file, so that it makes itself ready for one. */
export const readingChild = (
  folder: string,
  room: ChildRoom,
  { warm = false, program = READING_CHILD }: { warm?: boolean; program?: string } = {},
): LimitedChild =>
  // A child needs nothing of this process's surroundings, least of all its secrets.
  limitedChild(
    program,
    { heapMegabytes: room.heapMegabytes, megabytes: room.megabytes, seconds: room.secondsPerFile },
    {
      env: {
        PATH: process.env.PATH,
        TMPDIR: folder,
        NODE_ENV: 'production',
        ...(warm && { CALQUE_WARM: 'yes' }),
      },
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      walls: { writable: [folder] },
    },
  );

/**
 * Runs the reading child and calls back for each of its messages, in order; rejects with words when it
 * fails. The child starts at once and is told its task when its source is there.
 */
export function runChild(
  task: ChildTask,
  limits: ReadingLimits,
  sourceReady: Promise<unknown>,
  onMessage: (message: ChildMessage) => Promise<void>,
  child: LimitedChild = readingChild(task.results, limits),
): Promise<void> {
  // Whatever else goes wrong first, its failing is heard.
  sourceReady.catch(() => {});
  return new Promise((resolve, reject) => {
    child.allow(limits.secondsPerFile);
    // What its engines complain of is of use to whoever looks into one file, and to nobody else.
    let complaints = '';
    child.process.stderr!.on('data', (d: Buffer) => {
      complaints = (complaints + d.toString()).slice(-MOST_COMPLAINTS);
    });
    let work = Promise.resolve();
    let finished = false;
    let why: Error | null = null;
    let timer: NodeJS.Timeout;
    const stop = (error: Error) => {
      why ??= error;
      child.kill();
    };
    const rewind = () => {
      clearTimeout(timer);
      timer = setTimeout(
        () =>
          stop(
            new ReadFailure(
              'too-long',
              `A page took longer than ${limits.secondsPerPage} s and reading was stopped. Export the sheet again with fewer objects, or split it.`,
            ),
          ),
        limits.secondsPerPage * 1000,
      );
    };
    rewind();
    sourceReady.then(() => child.send({ task }), stop);
    const asking = setInterval(
      () =>
        void limits.cancelled().then(
          (yes) => yes && stop(new Cancelled()),
          () => {},
        ),
      ASK_EVERY_MS,
    );
    child.process.on('message', (message: ChildMessage) => {
      rewind();
      // The first page is waited for; the others come while people draw, perhaps on this machine.
      if (message.type === 'page' && message.page === 1 && message.whole) standBack(child.process.pid!, NICE);
      if (message.type === 'failure') why = new ReadFailure(message.code, message.message);
      else if (message.type === 'done') finished = true;
      else work = work.then(() => onMessage(message)).catch((error: Error) => stop(error));
    });
    const ended = () => {
      clearTimeout(timer);
      clearInterval(asking);
      void work.then(() => {
        if (why) reject(why);
        else if (child.overrun() === 'too-long')
          reject(
            new ReadFailure(
              'too-long',
              `Reading took longer than ${Math.round(limits.secondsPerFile / 60)} minutes and was stopped. Split the file, and attach the parts that are needed.`,
            ),
          );
        else if (finished) resolve();
        else reject(new ReadFailure('too-large', TOO_LARGE, { cause: complaints }));
      });
    };
    child.process.once('exit', ended);
    child.process.once('error', (error) => {
      why ??= error;
      ended();
    });
  });
}
