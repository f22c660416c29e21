import { touchedIds } from '@calque/core/model';
import { ApiError } from './api';
import type { SentStep } from './wire';

/** A request holds so many steps, and so many elements, at most; but one step always. */
const MOST_STEPS = 100,
  MOST_ELEMENTS = 5000;
/** The same failure of the server with the same step is met so often, then the step is set aside. */
const MOST_SAME = 4;

/** The steps that go into the next request; `most` of them. */
export function batchOf(pending: readonly SentStep[], most = MOST_STEPS): SentStep[] {
  const batch: SentStep[] = [];
  let elements = 0;
  for (const step of pending.slice(0, most)) {
    elements += touchedIds(step.change).length;
    if (batch.length > 0 && elements > MOST_ELEMENTS) break;
    batch.push(step);
  }
  return batch;
}

/** What to do about a request that failed. */
export type Remedy =
  /** Nothing is wrong with the steps: the server is away. It is tried for as long as it takes. */
  | { do: 'wait'; why: string }
  /** One of the steps may be at fault: they are sent one by one. */
  | { do: 'part' }
  /** This step can never be saved. */
  | { do: 'set-aside'; why: string }
  | { do: 'gone' };

/** Remembers how often the same step met the same failure, so that no answer is retried without end. */
export class Patience {
  private step = '';
  private times = 0;

  /** What to do about a failure of a request with these steps. */
  about(error: unknown, steps: readonly SentStep[]): Remedy {
    const { status, message } =
      error instanceof ApiError ? error : { status: 0, message: 'The server does not answer.' };
    if (status === 404) return { do: 'gone' };
    if (
      status === 0 ||
      status === 503 ||
      status === 502 ||
      status === 504 ||
      status === 426 ||
      status === 429 ||
      status === 507
    )
      return { do: 'wait', why: message };
    if (status >= 400 && status < 500)
      return steps.length > 1 ? { do: 'part' } : { do: 'set-aside', why: message };
    this.times = steps[0].id === this.step ? this.times + 1 : 1;
    this.step = steps[0].id;
    if (this.times < MOST_SAME) return { do: 'wait', why: message };
    this.times = 0;
    return steps.length > 1
      ? { do: 'part' }
      : { do: 'set-aside', why: `the server failed ${MOST_SAME} times over it` };
  }
}
