import { create } from 'zustand';
import { FIRST_STEPS, type FirstStep, type Progress } from './steps';

const KEPT = 'calque-first-minutes';

interface Kept {
  /** Put away for ever. */ off: boolean;
  done: readonly FirstStep['id'][];
}

interface FirstMinutes extends Kept {
  /** How far the person was when the step at hand had its turn. */ began: Progress | null;
  /** Looks whether the step at hand is done, and goes on to the next that is not. */
  follow(now: Progress): void;
  putAway(): void;
  /** Begins anew. */
  again(): void;
}

function kept(): Kept {
  try {
    const value: unknown = JSON.parse(globalThis.localStorage?.getItem(KEPT) ?? '{}');
    const { off, done } = (typeof value === 'object' && value !== null ? value : {}) as Partial<Kept>;
    const ids = Array.isArray(done) ? done : [];
    return { off: off === true, done: FIRST_STEPS.map((s) => s.id).filter((id) => ids.includes(id)) };
  } catch {
    return { off: false, done: [] };
  }
}

function keep({ off, done }: Kept): void {
  try {
    globalThis.localStorage?.setItem(KEPT, JSON.stringify({ off, done }));
  } catch {
    // A browser that keeps nothing shows them again next time.
  }
}

/** The step at hand; null when all are done. */
export const stepAtHand = ({ done }: Pick<Kept, 'done'>): FirstStep | null =>
  FIRST_STEPS.find((s) => !done.includes(s.id)) ?? null;

export const useFirstMinutes = create<FirstMinutes>((set, get) => ({
  ...kept(),
  began: null,
  follow: (now) => {
    const { off, done, began } = get();
    if (off) return;
    let all = done,
      since = began ?? now;
    for (let step = stepAtHand({ done: all }); step?.isDone(now, since); step = stepAtHand({ done: all })) {
      all = [...all, step.id];
      since = now;
    }
    if (all === done && began) return;
    set({ done: all, began: since });
    if (all !== done) keep({ off, done: all });
  },
  putAway: () => {
    set({ off: true });
    keep({ off: true, done: get().done });
  },
  again: () => {
    set({ off: false, done: [], began: null });
    keep({ off: false, done: [] });
  },
}));
