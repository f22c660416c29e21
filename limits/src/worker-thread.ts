import { Worker, type TransferListItem } from 'node:worker_threads';

export interface WorkerLimits {
  heapMegabytes: number;
  /** Longest time of one task, seconds. */ seconds: number;
  /** Tasks that may wait; more are refused. */ most: number;
}

/** The answer of a thread: what came of the task, or why nothing did. */
type Answer = { ok: unknown } | { error: string; code?: string };
interface Task {
  message: unknown;
  transfer: TransferListItem[];
  resolve(value: unknown): void;
  reject(error: Error): void;
}

export class ThreadFailure extends Error {
  constructor(
    readonly why: 'too-long' | 'too-large' | 'busy' | 'failed',
    message: string,
    readonly code?: string,
  ) {
    super(message);
    this.name = 'ThreadFailure';
  }
}

/**
 * A thread that does one task after the other, beside the one that serves. It is started when it is needed, and anew after a task
 * that took too long or too much.
 */
export function workerThread(
  program: string,
  limits: WorkerLimits,
): { run<T>(message: unknown, transfer?: TransferListItem[]): Promise<T> } {
  const queue: Task[] = [];
  let worker: Worker | null = null,
    current: Task | null = null;
  let timer: NodeJS.Timeout;
  const settle = (act: (task: Task) => void) => {
    clearTimeout(timer);
    const task = current;
    current = null;
    if (task) act(task);
    next();
  };
  const drop = (failure: ThreadFailure) => {
    const old = worker;
    worker = null;
    old?.removeAllListeners();
    old?.on('error', () => {});
    void old?.terminate();
    settle((task) => task.reject(failure));
  };
  const started = (): Worker => {
    if (worker) return worker;
    const made = new Worker(program, { resourceLimits: { maxOldGenerationSizeMb: limits.heapMegabytes } });
    made.unref();
    made.on('message', (answer: Answer) =>
      settle((task) =>
        'ok' in answer
          ? task.resolve(answer.ok)
          : task.reject(new ThreadFailure('failed', answer.error, answer.code)),
      ),
    );
    made.on('error', (error: Error & { code?: string }) =>
      drop(
        new ThreadFailure(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? 'too-large' : 'failed', error.message),
      ),
    );
    made.on('exit', () => {
      if (worker === made) drop(new ThreadFailure('failed', 'The thread ended.'));
    });
    worker = made;
    return made;
  };
  const next = () => {
    if (current || queue.length === 0) return;
    current = queue.shift()!;
    timer = setTimeout(
      () => drop(new ThreadFailure('too-long', `It took longer than ${limits.seconds} s.`)),
      limits.seconds * 1000,
    );
    try {
      started().postMessage(current.message, current.transfer);
    } catch (error) {
      drop(new ThreadFailure('failed', String(error)));
    }
  };
  return {
    run: <T>(message: unknown, transfer: TransferListItem[] = []) =>
      new Promise<T>((resolve, reject) => {
        if (queue.length >= limits.most) {
          reject(new ThreadFailure('busy', 'Too much is waiting already.'));
          return;
        }
        queue.push({ message, transfer, resolve: resolve as (v: unknown) => void, reject });
        next();
      }),
  };
}
