import type { MessagePort } from 'node:worker_threads';
import { faultOf } from './fault.ts';

/** Errors that mean something to the one that asked, by their names. */
const NAMED: Record<string, string> = { NoRequest: 'no-request', NewerForm: 'newer-form' };

/** Does one task after the other as the thread that started this one asks, and answers each. Errors keep what they mean for the one that asked. */
export function answerTasks<T>(port: MessagePort, work: (task: T) => Promise<unknown>): void {
  port.on('message', (task: T) => {
    void work(task).then(
      (ok) => port.postMessage({ ok }),
      (error: unknown) => {
        const { kind, code, words } = faultOf(error);
        port.postMessage({
          error: words || String(error),
          code:
            error instanceof Error && Object.hasOwn(NAMED, error.name)
              ? NAMED[error.name]
              : kind === 'away'
                ? `away:${code ?? ''}`
                : kind,
        });
      },
    );
  });
}
