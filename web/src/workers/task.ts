/** What a worker of one task says: how far it is, why it cannot, or what came of it. */
export type Said =
  { type: 'progress'; share: number } | { type: 'failed' | 'none'; why: string } | { type: 'done' };

/** A task was stopped by the person: nothing to tell. */
export class Stopped extends Error {
  override readonly name = 'Stopped';
}

export interface Task<Done> {
  /** What came of it. Rejects with words where it failed, and with Stopped where it was stopped. */
  done: Promise<Done>;
  /** Ends the worker at once. */
  stop(): void;
}

export interface Asked<To, Done> {
  /** How far it is, 0 to 1. */
  onProgress?(share: number): void;
  /** Told at once of the end, before the promise is; `error` is Stopped where it was stopped. */
  onEnd?(end: { done: Done } | { error: Error }): void;
  /** Words for when the worker itself breaks; without them what the browser says of it. */
  broken: string;
  /** Handed over instead of being copied. */
  transfer?: Transferable[];
  /** What came of it is not the end: asks the worker for more and says so. */
  goesOn?(done: Done, ask: (request: To, transfer?: Transferable[]) => void): boolean;
}

/** Gives a worker its one task and ends it when that is done, has failed, or is stopped. */
export function runTask<To, From extends Said>(
  worker: Worker,
  request: To,
  { onProgress, onEnd, broken, transfer = [], goesOn }: Asked<To, Extract<From, { type: 'done' }>>,
): Task<Extract<From, { type: 'done' }>> {
  const ask = (message: To, handed: Transferable[] = []) => worker.postMessage(message, handed);
  let stop = () => {};
  const done = new Promise<Extract<From, { type: 'done' }>>((resolve, reject) => {
    const fail = (error: Error) => {
      worker.terminate();
      onEnd?.({ error });
      reject(error);
    };
    stop = () => fail(new Stopped());
    worker.onmessage = ({ data }: MessageEvent<From>) => {
      if (data.type === 'progress') onProgress?.(data.share);
      else if (data.type === 'done') {
        const result = data as Extract<From, { type: 'done' }>;
        if (goesOn?.(result, ask)) return;
        worker.terminate();
        onEnd?.({ done: result });
        resolve(result);
      } else fail(new Error(data.why));
    };
    worker.onerror = (event) => {
      event.preventDefault?.();
      fail(new Error(broken));
    };
  });
  // Who is told of the end need not wait for it as well.
  if (onEnd) done.catch(() => {});
  ask(request, transfer);
  return { done, stop };
}
