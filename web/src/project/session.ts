import { createStore, type StoreApi } from 'zustand/vanilla';
import {
  apply, EMPTY_HISTORY, EMPTY_MODEL, historyOf, modelOf, remember, type Change, type History, type LogStep, type Model,
} from '@calque/core/model';
import { api, ApiError } from './api';
import type { PendingStore } from './pending';
import type { FileInfo, Notice, SentStep } from './wire';

/** 'unkept': the server is away and this browser keeps nothing, so that what is pending lives in the page alone. */
export type SavedState = 'saved' | 'saving' | 'waiting' | 'unkept';

export interface ProjectState {
  loaded: boolean;
  /** Why the project cannot be shown, in words. */
  failure: string | null;
  model: Model;
  history: History;
  /** Are there steps before those that the history has? They come when they are needed. */
  hasEarlier: boolean;
  saved: SavedState;
  /** Steps not taken by the server yet. */
  pendingCount: number;
  files: FileInfo[];
  /** Something to tell the person once. */
  notice: { text: string; bad: boolean; key: number } | null;
}

/** The first step made the project itself and cannot be undone. */
const FIRST_STEP = 1;
/** Steps are fetched so many at a time, the latest first; the ones before when undo comes to them. */
const HISTORY_STEPS = 1000, SOON_NEEDED = 100;

const REFRESH_MS = 1000;
/** The first pages of a set are waited for: their pictures are fetched as they come. */
const FIRST_PAGES = 12, FIRST_REFRESH_MS = 50;
const RETRY_MS = [500, 1000, 2000, 4000, 8000];

/**
 * One open project: the model that is shown is what the server has confirmed, with the pending steps
 * on top. Steps are sent in order; other tabs' steps arrive by server-sent events.
 */
export class ProjectSession {
  readonly store: StoreApi<ProjectState> = createStore<ProjectState>(() => ({
    loaded: false, failure: null, model: EMPTY_MODEL, history: EMPTY_HISTORY, hasEarlier: false, saved: 'saved', pendingCount: 0, files: [], notice: null,
  }));
  private confirmed: Model = EMPTY_MODEL;
  private confirmedHistory: History = EMPTY_HISTORY;
  private history: Promise<ReadonlySet<string>> | null = null;
  private historyLoaded = false;
  /** Steps that the confirmed history was made of, in order; before it is there, those confirmed since opening. */
  private steps: LogStep[] = [];
  private earlier: Promise<void> | null = null;
  private openedAt = 0;
  private seq = 0;
  private pending: SentStep[] = [];
  private sending = false;
  private failures = 0;
  private catching: Promise<void> | null = null;
  private events: EventSource | null = null;
  private retry: ReturnType<typeof setTimeout> | null = null;
  private closed = false;
  /** How often what is pending was given to be kept, and how far that has come. */
  private keeping = 0;
  private keptTurn = 0;
  private keepsNothing = false;
  private noticeKey = 0;
  private refreshing: Promise<void> | null = null;
  private refreshAgain = false;

  constructor(readonly projectId: string, private readonly kept: PendingStore, private readonly clientId: string, private readonly newId: () => string) {}

  get state(): ProjectState { return this.store.getState(); }

  async open(): Promise<void> {
    try {
      const [project, kept] = await Promise.all([api.project(this.projectId), this.kept.load(this.projectId).catch(() => [])]);
      this.confirmed = modelOf(project.entities);
      this.openedAt = this.seq = project.seq;
      this.history = kept.length > 0 ? this.loadHistory() : whenIdle().then(() => this.loadHistory());
      if (kept.length > 0) {
        // What was kept may have been taken by the server when the page was closed: the log tells.
        const sent = await this.history;
        // The server may have taken more of them since the project was fetched, and the rest stand on those: they come first.
        const since = await this.untilAnswered(() => api.steps(this.projectId, this.seq)) ?? [];
        for (const step of since) this.confirm(step);
        const taken = new Set([...sent, ...since.map((s) => s.id)]);
        this.pending = kept.filter((s) => !taken.has(s.id));
      }
      this.store.setState({ loaded: true, failure: null, files: project.files });
      this.rebuild();
      if (this.pending.length > 0) this.tell(`${this.pending.length === 1 ? 'One step' : `${this.pending.length} steps`} from before had not been saved; sending now.`);
      this.listen();
      void this.flush();
    } catch (error) {
      this.store.setState({ failure: error instanceof Error ? error.message : String(error) });
    }
  }

  /**
   * The latest steps are fetched after the drawing is there, since only undo and redo need them. Returns
   * the ids of all steps that the server has had lately. Tries until it succeeds or the page is closed.
   */
  private async loadHistory(): Promise<ReadonlySet<string>> {
    const steps = await this.untilAnswered(() => api.steps(this.projectId, FIRST_STEP, HISTORY_STEPS)) ?? [];
    this.takeHistory([...steps.filter((s) => s.seq <= this.openedAt), ...this.steps], steps.length);
    this.historyLoaded = true;
    this.rebuild();
    return new Set(steps.map((s) => s.id));
  }

  private takeHistory(steps: LogStep[], fetched: number): void {
    this.steps = steps;
    this.confirmedHistory = historyOf(steps);
    this.store.setState({ hasEarlier: fetched === HISTORY_STEPS });
  }

  /** Fetches the steps before those that the history has; undo goes on from there. */
  loadEarlier(): Promise<void> {
    this.earlier ??= (async () => {
      try {
        const first = this.steps[0]?.seq;
        if (!this.state.hasEarlier || first === undefined) return;
        const before = await this.untilAnswered(() => api.steps(this.projectId, FIRST_STEP, HISTORY_STEPS, first)) ?? [];
        this.takeHistory([...before, ...this.steps], before.length);
        this.rebuild();
      } finally {
        this.earlier = null;
      }
    })();
    return this.earlier;
  }

  /** Asks until there is an answer; null when the page is closed before. */
  private async untilAnswered<T>(ask: () => Promise<T>): Promise<T | null> {
    for (let failures = 0; !this.closed; failures++) {
      const answer = await ask().catch(() => null);
      if (answer !== null) return answer;
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS[Math.min(failures, RETRY_MS.length - 1)]));
    }
    return null;
  }

  close(): void {
    this.closed = true;
    this.events?.close();
    if (this.retry) clearTimeout(this.retry);
  }

  /** Would the change apply now? */
  can(change: Change): boolean {
    return apply(this.state.model, change).ok;
  }

  /** Does a step: shown at once, sent in order. Returns whether it applied. */
  do(change: Change | null, label: string): boolean {
    if (!change) return true;
    return this.step({ id: this.newId(), label, kind: 'do', of: null, change });
  }

  /** Takes the last step back; false where there is none or it no longer applies. */
  undo(): boolean {
    if (!this.historyLoaded) return this.whenHistory(() => this.undo());
    const { done } = this.state.history, last = done.at(-1);
    // The ones before are there before they are needed.
    if (done.length < SOON_NEEDED) void this.loadEarlier();
    if (!last && this.state.hasEarlier) {
      void this.loadEarlier().then(() => { if (!this.closed) this.undo(); });
      return false;
    }
    return last !== undefined && this.step({ id: this.newId(), label: last.label, kind: 'undo', of: last.id, change: last.inverse });
  }

  redo(): boolean {
    if (!this.historyLoaded) return this.whenHistory(() => this.redo());
    const next = this.state.history.undone.at(-1);
    return next !== undefined && this.step({ id: this.newId(), label: next.label, kind: 'redo', of: next.id, change: next.again });
  }

  private whenHistory(act: () => boolean): false {
    void this.history?.then(() => { if (!this.closed) act(); });
    return false;
  }

  /** Resolves when the server has taken every step; rejects when it does not answer. */
  allSent(): Promise<void> {
    if (this.state.saved === 'saved') return Promise.resolve();
    return new Promise((resolve, reject) => {
      const stop = this.store.subscribe(({ saved }) => {
        if (saved === 'saving') return;
        stop();
        if (saved === 'saved') resolve();
        else reject(new ApiError(0, 'away', 'The server does not answer. Try it again when all is saved.'));
      });
    });
  }

  tell(text: string, bad = false): void {
    this.store.setState({ notice: { text, bad, key: ++this.noticeKey } });
  }

  /** A set being read tells of every page: the list is fetched at once for the first pages, then once a second. */
  private refreshSoon(): void {
    if (this.refreshing) {
      this.refreshAgain = true;
      return;
    }
    this.refreshing = this.refreshFiles().then(() => new Promise((resolve) => setTimeout(resolve, this.state.files.some((f) => f.status === 'reading' && f.pagesRead > FIRST_PAGES) ? REFRESH_MS : FIRST_REFRESH_MS))).then(() => {
      this.refreshing = null;
      if (this.refreshAgain && !this.closed) {
        this.refreshAgain = false;
        this.refreshSoon();
      }
    });
  }

  async refreshFiles(): Promise<void> {
    const files = await api.files(this.projectId).catch(() => null);
    if (files && !this.closed) this.store.setState({ files });
  }

  private step(step: SentStep): boolean {
    const applied = apply(this.state.model, step.change);
    if (!applied.ok) {
      this.tell(`"${step.label}" cannot be ${step.kind === 'undo' ? 'undone' : step.kind === 'redo' ? 'redone' : 'done'}: ${REFUSED[applied.refusal.code]}.`, true);
      return false;
    }
    this.pending.push(step);
    this.store.setState({ model: applied.model, history: remember(this.state.history, step), pendingCount: this.pending.length });
    void this.keep();
    void this.flush();
    return true;
  }

  /** Keeps what is pending in the browser. */
  private async keep(): Promise<void> {
    const turn = ++this.keeping;
    this.showSaved();
    await this.kept.save(this.projectId, this.pending).then(() => { [this.keptTurn, this.keepsNothing] = [Math.max(this.keptTurn, turn), false]; }, () => { this.keepsNothing = true; });
    this.showSaved();
  }

  /** Only what is kept on this machine is shown as waiting: until then it is being saved. */
  private showSaved(): void {
    if (this.closed) return;
    const away = this.failures > 0, kept = this.keptTurn === this.keeping;
    const saved = this.pending.length === 0 ? 'saved' : away && kept ? 'waiting' : away && this.keepsNothing ? 'unkept' : 'saving';
    if (saved !== this.state.saved) this.store.setState({ saved });
  }

  /** The shown model from the confirmed one and what is pending; pending steps that no longer fit are dropped and told. */
  private rebuild(): void {
    let model = this.confirmed;
    let history = this.confirmedHistory;
    const kept: SentStep[] = [];
    for (const step of this.pending) {
      const applied = apply(model, step.change);
      if (!applied.ok) {
        this.tell(`"${step.label}" was taken back: ${REFUSED[applied.refusal.code]}.`, true);
        continue;
      }
      model = applied.model;
      history = remember(history, step);
      kept.push(step);
    }
    const dropped = kept.length !== this.pending.length;
    this.pending = kept;
    this.store.setState({ model, history, pendingCount: kept.length });
    if (dropped) void this.keep();
    else this.showSaved();
  }

  private async flush(): Promise<void> {
    if (this.sending || this.pending.length === 0 || this.closed) return;
    this.sending = true;
    const steps = this.pending.slice(0, 100);
    try {
      const answer = await api.send(this.projectId, { clientId: this.clientId, steps });
      this.failures = 0;
      const taken = answer.ok ? steps.length : steps.findIndex((s) => s.id === answer.stepId);
      const refused = answer.ok ? null : steps[taken];
      // Others' steps may lie between ours: take the log as the server has it.
      await this.catchUp();
      if (refused) {
        this.pending = this.pending.filter((s) => s.id !== refused.id);
        this.tell(`"${refused.label}" was refused: ${(answer as { message: string }).message}.`, true);
        this.rebuild();
      }
    } catch (error) {
      this.failed(error);
    } finally {
      this.sending = false;
    }
    if (this.pending.length > 0 && this.failures === 0) void this.flush();
    else if (this.pending.length === 0) void this.keep();
  }

  private failed(error: unknown): void {
    if (error instanceof ApiError && error.status === 404) {
      this.store.setState({ failure: 'This project has been deleted. It may still be in the bin on the list of projects.' });
      return;
    }
    if (error instanceof ApiError && error.status === 400) {
      const dropped = this.pending.shift();
      this.tell(`"${dropped?.label}" cannot be saved: ${error.message}`, true);
      this.rebuild();
      return;
    }
    this.failures++;
    void this.keep();
    if (this.retry) clearTimeout(this.retry);
    this.retry = setTimeout(() => void this.flush(), RETRY_MS[Math.min(this.failures, RETRY_MS.length) - 1]);
  }

  /** Takes all steps that the server has and this page lacks, and drops the pending ones among them. */
  private catchUp(): Promise<void> {
    this.catching ??= (async () => {
      try {
        const steps = await api.steps(this.projectId, this.seq);
        for (const step of steps) this.confirm(step);
        if (steps.length > 0) this.rebuild();
      } finally {
        this.catching = null;
      }
    })();
    return this.catching;
  }

  private confirm(sent: LogStep): void {
    if (sent.seq <= this.seq) return;
    // Of our own steps we keep our own objects: nothing that shows is another one because it has been saved.
    const own = this.pending.find((p) => p.id === sent.id), step = own ? { ...sent, change: own.change } : sent;
    const applied = apply(this.confirmed, step.change);
    if (applied.ok) this.confirmed = applied.model;
    if (this.historyLoaded) this.confirmedHistory = remember(this.confirmedHistory, step);
    this.steps.push(step);
    this.seq = step.seq;
    this.pending = this.pending.filter((p) => p.id !== step.id);
  }

  private listen(): void {
    this.events = new EventSource(`/api/projects/${this.projectId}/events`);
    this.events.onmessage = (event: MessageEvent<string>) => {
      const notice = JSON.parse(event.data) as Notice;
      if (notice.what === 'files') this.refreshSoon();
      else if (notice.what === 'changes' && notice.seq > this.seq && !this.sending) void this.catchUp().catch(() => {});
      // The stream is back: so is the server.
      if (this.pending.length > 0 && this.failures > 0) void this.flush();
    };
    this.events.onopen = () => void this.refreshFiles();
  }
}

/** When the page has nothing else to do, so that the drawing comes first; at once where there is no page. */
const whenIdle = (): Promise<void> => (typeof requestIdleCallback === 'undefined' ? Promise.resolve() : new Promise((resolve) => { requestIdleCallback(() => resolve(), { timeout: 3000 }); }));

const REFUSED = { exists: 'it is there already', missing: 'what it changes is gone', stale: 'what it changes has been changed meanwhile' };
