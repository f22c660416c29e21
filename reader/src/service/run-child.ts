import { fork } from 'node:child_process';
import { setPriority } from 'node:os';
import { fileURLToPath } from 'node:url';
import { ReadFailure } from '../failure.ts';
import { BEGIN, type ChildMessage, type ChildTask } from './protocol.ts';

export interface ChildLimits {
  /** Heap of the child beside the PDF engine's own memory. */
  heapMegabytes: number;
  /** Longest time without a new page. */
  secondsPerPage: number;
  /** Asked now and then; true ends the reading. */
  cancelled: () => Promise<boolean>;
}

const ASK_EVERY_MS = 500;
/** Stands beside this program when bundled. */
const READING_CHILD = fileURLToPath(new URL('./reader-child.mjs', import.meta.url));

export class Cancelled extends Error {}

/**
 * Runs the reading child and calls back for each of its messages, in order; rejects with words when it
 * fails. The child starts at once and begins when its source is there.
 */
export function runChild(task: ChildTask, limits: ChildLimits, sourceReady: Promise<unknown>, onMessage: (message: ChildMessage) => Promise<void>, program = READING_CHILD): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = fork(program, [JSON.stringify(task)], {
      execArgv: [`--max-old-space-size=${limits.heapMegabytes}`], stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    let work = Promise.resolve();
    let finished = false;
    let why: Error | null = null;
    let timer: NodeJS.Timeout;
    const stop = (error: Error) => {
      why ??= error;
      child.kill('SIGKILL');
    };
    const rewind = () => {
      clearTimeout(timer);
      timer = setTimeout(() => stop(new ReadFailure('too-long', `A page took longer than ${limits.secondsPerPage} s and reading was stopped. Export the sheet again with fewer objects, or split it.`)), limits.secondsPerPage * 1000);
    };
    rewind();
    sourceReady.then(() => child.connected && child.send(BEGIN), stop);
    const asking = setInterval(() => void limits.cancelled().then((yes) => yes && stop(new Cancelled()), () => {}), ASK_EVERY_MS);
    child.on('message', (message: ChildMessage) => {
      rewind();
      // The first page is waited for; the others come while people draw, perhaps on this machine.
      if (message.type === 'page' && message.page === 1) yieldToOthers(child.pid!);
      if (message.type === 'failure') why = new ReadFailure(message.code, message.message);
      else if (message.type === 'done') finished = true;
      else work = work.then(() => onMessage(message)).catch((error: Error) => stop(error));
    });
    child.on('exit', () => {
      clearTimeout(timer);
      clearInterval(asking);
      void work.then(() => {
        if (why) reject(why);
        else if (finished) resolve();
        else reject(new ReadFailure('too-large', 'Reading this file needed more memory than it may use and was stopped. Export the sheet again with fewer objects, or split it.'));
      });
    });
  });
}

const NICE = 10;

function yieldToOthers(pid: number): void {
  try {
    setPriority(pid, NICE);
  } catch {
    // It has ended already.
  }
}
