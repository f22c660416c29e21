import { EMPTY_HISTORY, historyOf, remember, type History, type LogStep } from '@calque/core/model';
import { FORM } from '@calque/core/formats';
import { api } from './api';
import type { StepsAnswer } from './wire';

/** The first step made the project itself and cannot be undone. */
const FIRST_STEP = 1;
/** Steps are fetched so many at a time, the latest first; the ones before when undo comes to them. */
const HISTORY_STEPS = 1000;
const NO_STEPS: StepsAnswer = { form: FORM, steps: [], more: false };

/** Asks until there is an answer; null when the page is closed before. */
export type UntilAnswered = <T>(ask: () => Promise<T>) => Promise<T | null>;

/** The confirmed steps of a project as far back as they have been fetched: only undo and redo need them, so the drawing comes first. */
export class Past {
  /** What undo and redo know of the confirmed steps. */
  history: History = EMPTY_HISTORY;
  loaded = false;
  /** Are there steps before those that the history has? */
  hasEarlier = false;
  /** Steps that the history was made of, in order; before it is there, those confirmed since opening. */
  private steps: LogStep[] = [];
  private earlier: Promise<void> | null = null;

  constructor(
    private readonly projectId: string,
    private readonly untilAnswered: UntilAnswered,
    private readonly onChange: () => void,
  ) {}

  has(stepId: string): boolean {
    return this.steps.some((s) => s.id === stepId);
  }

  /** A step has been confirmed. */
  add(step: LogStep): void {
    if (this.loaded) this.history = remember(this.history, step);
    this.steps.push(step);
  }

  /** Fetches the latest steps, up to the sequence that the project was opened at. Returns the ids of all that the server has had lately. */
  async load(openedAt: number): Promise<ReadonlySet<string>> {
    const { steps, more } = await this.fetch();
    this.take(
      [...steps.filter((s) => s.seq <= openedAt), ...this.steps],
      more || steps.length === HISTORY_STEPS,
    );
    this.loaded = true;
    this.onChange();
    return new Set(steps.map((s) => s.id));
  }

  /** Fetches the steps before those that the history has; undo goes on from there. */
  loadEarlier(): Promise<void> {
    this.earlier ??= (async () => {
      try {
        const first = this.steps[0]?.seq;
        if (!this.hasEarlier || first === undefined) return;
        const { steps, more } = await this.fetch(first);
        this.take([...steps, ...this.steps], more || steps.length === HISTORY_STEPS);
        this.onChange();
      } finally {
        this.earlier = null;
      }
    })();
    return this.earlier;
  }

  private async fetch(before?: number): Promise<StepsAnswer> {
    return (
      (await this.untilAnswered(() => api.steps(this.projectId, FIRST_STEP, HISTORY_STEPS, before))) ??
      NO_STEPS
    );
  }

  private take(steps: LogStep[], hasEarlier: boolean): void {
    this.steps = steps;
    this.history = historyOf(steps);
    this.hasEarlier = hasEarlier;
  }
}
