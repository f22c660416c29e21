import type { MessagePort } from 'node:worker_threads';
import { faultOf } from './fault.ts';

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
            error instanceof Error && error.name === 'NoRequest'
              ? 'no-request'
              : kind === 'away'
                ? `away:${code ?? ''}`
                : kind,
        });
      },
    );
  });
}
