import type { Change } from './changes/index.ts';

/** One step of the log as it is stored. `of` names the step that an undo or redo is about. */
export interface LogStep {
  id: string;
  seq: number;
  label: string;
  kind: 'do' | 'undo' | 'redo';
  of: string | null;
  change: Change;
}

export interface History {
  /** Steps that can be undone, the latest last, each with the change that undoes it. */
  done: { id: string; label: string; inverse: Change }[];
  /** Steps that can be redone, the next last, each with the change that redoes it. */
  undone: { id: string; label: string; again: Change }[];
}

export const EMPTY_HISTORY: History = { done: [], undone: [] };

/** The inverse of a change by its own record (every change carries what it replaces). */
export function inverseOf(change: Change): Change {
  switch (change.type) {
    case 'add':
      return { type: 'remove', entity: change.entity };
    case 'remove':
      return { type: 'add', entity: change.entity };
    case 'set':
      return { type: 'set', id: change.id, before: change.after, after: change.before };
    case 'group':
      return { type: 'group', changes: [...change.changes].reverse().map(inverseOf) };
  }
}

/** The history after one more step. A new step ends what could be redone. */
export function remember(
  history: History,
  step: Pick<LogStep, 'id' | 'label' | 'kind' | 'of' | 'change'>,
): History {
  if (step.kind === 'do')
    return {
      done: [...history.done, { id: step.id, label: step.label, inverse: inverseOf(step.change) }],
      undone: [],
    };
  if (step.kind === 'undo') {
    const entry = history.done.find((d) => d.id === step.of);
    if (!entry) return history;
    return {
      done: history.done.filter((d) => d !== entry),
      undone: [...history.undone, { id: entry.id, label: entry.label, again: inverseOf(step.change) }],
    };
  }
  const entry = history.undone.find((d) => d.id === step.of);
  if (!entry) return history;
  return {
    done: [...history.done, { id: entry.id, label: entry.label, inverse: inverseOf(step.change) }],
    undone: history.undone.filter((d) => d !== entry),
  };
}

export const historyOf = (steps: readonly LogStep[]): History => steps.reduce(remember, EMPTY_HISTORY);
