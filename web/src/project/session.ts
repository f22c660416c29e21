import { createStore, type StoreApi } from 'zustand/vanilla';
import {
  apply,
  checked,
  EMPTY_HISTORY,
  EMPTY_MODEL,
  LONGEST_TEXT,
  prepare,
  remember,
  type Change,
  type History,
  type LogStep,
  type Model,
  type Prepared,
} from '@calque/core/model';
import { FORM } from '@calque/core/formats';
import { settled } from '@calque/core/part';
import { soundName } from '@calque/core/texts';
import { api, ApiError } from './api';
import { openProject, type PartlyOpened } from './opening';
import { listenTo } from './events-hub';
import { FilesWatch } from './files-watch';
import { StepKeeper } from './keeper';
import { Past } from './past';
import type { PendingStore, SetAside } from './pending';
import { batchOf, Patience } from './sending';
import type { FileInfo, SentStep } from './wire';

/** 'unkept': the server is away and this browser keeps nothing, so that what is pending lives in the page alone. */
export type SavedState = 'saved' | 'saving' | 'waiting' | 'unkept';

export interface ProjectState {
  loaded: boolean;
  /** How much of the project is there while it comes (0 to 1); null when all is. */
  opening: number | null;
  /** Why the project cannot be shown, in words. */
  failure: string | null;
  model: Model;
  history: History;
  /** Are there steps before those that the history has? They come when they are needed. */
  hasEarlier: boolean;
  saved: SavedState;
  /** Steps not taken by the server yet. */
  pendingCount: number;
  /** Why nothing can be saved at the moment, in the server's words. */
  away: string | null;
  /** Steps that could not be saved and were taken back; they are kept until the person lets them go. */
  asides: readonly SetAside[];
  files: FileInfo[];
  /** Something to tell the person once. */
  notice: { text: string; bad: boolean; key: number } | null;
}

/** Undo fetches the steps before these when so few are left. */
const SOON_NEEDED = 100;
const OPEN_AGAIN_MS = 3000;
const RETRY_MS = [500, 1000, 2000, 4000, 8000];
/** How often it is looked for steps that another tab left when it went. */
const LEFT_MS = 10000;

/**
 * One open project: the model that is shown is what the server has confirmed, with the pending steps
 * on top. Steps are sent in order; other tabs' steps arrive by server-sent events.
 */
export class ProjectSession {
  readonly store: StoreApi<ProjectState> = createStore<ProjectState>(() => ({
    loaded: false,
    opening: null,
    failure: null,
    model: EMPTY_MODEL,
    history: EMPTY_HISTORY,
    hasEarlier: false,
    saved: 'saved',
    pendingCount: 0,
    away: null,
    asides: [],
    files: [],
    notice: null,
  }));
  private confirmed: Model = EMPTY_MODEL;
  private history: Promise<ReadonlySet<string>> | null = null;
  private seq = 0;
  /** The latest sequence that the page was told of. */
  private told = 0;
  private pending: SentStep[] = [];
  private sending = false;
  private failures = 0;
  private readonly patience = new Patience();
  /** While a step among those that wait is at fault, they are sent one by one. */
  private oneByOne = 0;
  private catching: Promise<void> | null = null;
  private stopListening = () => {};
  private looking: ReturnType<typeof setInterval> | null = null;
  private retry: ReturnType<typeof setTimeout> | null = null;
  private closed = false;
  private readonly keeper: StepKeeper;
  private noticeKey = 0;
  private readonly past: Past;
  private readonly files: FilesWatch;

  constructor(
    readonly projectId: string,
    kept: PendingStore,
    private readonly clientId: string,
    private readonly newId: () => string,
  ) {
    this.keeper = new StepKeeper(kept, projectId);
    this.files = new FilesWatch(projectId, (files) => this.store.setState({ files }));
    this.past = new Past(
      projectId,
      (ask) => this.untilAnswered(ask),
      () => {
        this.store.setState({ hasEarlier: this.past.hasEarlier });
        this.rebuild();
      },
    );
  }

  get state(): ProjectState {
    return this.store.getState();
  }

  async open(): Promise<void> {
    try {
      const [project, kept] = await Promise.all([
        openProject(this.projectId, (partly) => this.showPartly(partly)),
        this.keeper.takeLeft(),
      ]);
      this.confirmed = project.model;
      const { seq } = project;
      this.seq = seq;
      this.history = kept.length > 0 ? this.past.load(seq) : whenIdle().then(() => this.past.load(seq));
      if (kept.length > 0) {
        // What was kept may have been taken by the server when the page was closed: the log tells.
        const sent = await this.history;
        // The server may have taken more of them since the project was fetched, and the rest stand on those: they come first.
        await this.untilAnswered(() => this.takeNew().then(() => true));
        this.takeUp(kept, sent);
      }
      void this.keeper
        .asides()
        .then((asides) => this.store.setState((now) => ({ asides: [...asides, ...now.asides] })));
      this.store.setState({ loaded: true, opening: null, failure: null, files: project.files });
      this.rebuild();
      if (this.pending.length > 0)
        this.tell(
          `${this.pending.length === 1 ? 'One step' : `${this.pending.length} steps`} from before had not been saved; sending now.`,
        );
      this.listen();
      this.looking = setInterval(() => void this.takeUpLeft(), LEFT_MS);
      void this.flush();
    } catch (error) {
      if (this.closed) return;
      const away = error instanceof ApiError && (error.status === 0 || error.status === 503);
      const words =
        error instanceof ApiError && error.status === 0
          ? 'The server does not answer.'
          : error instanceof Error
            ? error.message
            : String(error);
      this.store.setState({ failure: away ? `${words} This page opens by itself when it is back.` : words });
      if (away) this.retry = setTimeout(() => void this.open(), OPEN_AGAIN_MS);
    }
  }

  /** A large project shows while it comes; it can be looked at, and not changed yet. */
  private showPartly({ model, files, share }: PartlyOpened): void {
    if (!this.closed) this.store.setState({ loaded: true, opening: share, failure: null, model, files });
  }

  /** Takes kept steps as pending that the server has not had yet. */
  private takeUp(kept: readonly SentStep[], had: ReadonlySet<string>): void {
    const done = kept.filter((s) => had.has(s.id) || this.past.has(s.id));
    this.keeper.letGo(done);
    this.pending.push(...kept.filter((s) => !done.includes(s) && !this.pending.some((p) => p.id === s.id)));
  }

  /**
   * Another tab of this browser that has gone may have left steps: they are sent from here. Only when the server answers: until then
   * they wait for whoever opens the project next, who is to see them at once.
   */
  private async takeUpLeft(): Promise<void> {
    if (!this.past.loaded || this.closed || this.failures > 0) return;
    const answers = await this.takeNew().then(
      (any) => {
        if (any) this.rebuild();
        return true;
      },
      () => false,
    );
    const left = answers ? await this.keeper.takeLeft() : [];
    if (left.length === 0) return;
    this.takeUp(left, new Set());
    this.rebuild();
    void this.flush();
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
    this.files.close();
    this.stopListening();
    if (this.looking) clearInterval(this.looking);
    if (this.retry) clearTimeout(this.retry);
  }

  /** Would the change apply now? */
  can(change: Change): boolean {
    return this.state.opening === null && prepare(this.state.model, change).ok;
  }

  /** Does a step: shown at once, sent in order. Returns whether it applied. */
  do(change: Change | null, label: string): boolean {
    if (!change) return true;
    if (this.refusesYet()) return false;
    return this.step(
      { id: this.newId(), label: soundName(label, LONGEST_TEXT), kind: 'do', of: null },
      // Rules on the planes of parts bring linework to where they hold.
      prepare(this.state.model, settled(this.state.model, change, this.newId)),
    );
  }

  /** Says so where not all of the project is there. */
  private refusesYet(): boolean {
    if (this.state.opening === null) return false;
    this.tell('The project is still being opened: it can be changed when all of it is there.');
    return true;
  }

  /** Takes the last step back; false where there is none or it no longer applies. */
  undo(): boolean {
    if (this.refusesYet()) return false;
    if (!this.past.loaded) return this.whenHistory(() => this.undo());
    const { done } = this.state.history,
      last = done.at(-1);
    // The ones before are there before they are needed.
    if (done.length < SOON_NEEDED) void this.past.loadEarlier();
    if (!last && this.state.hasEarlier) {
      void this.past.loadEarlier().then(() => {
        if (!this.closed) this.undo();
      });
      return false;
    }
    return (
      last !== undefined &&
      this.step(
        { id: this.newId(), label: last.label, kind: 'undo', of: last.id },
        checked(this.state.model, last.inverse),
      )
    );
  }

  redo(): boolean {
    if (this.refusesYet()) return false;
    if (!this.past.loaded) return this.whenHistory(() => this.redo());
    const next = this.state.history.undone.at(-1);
    return (
      next !== undefined &&
      this.step(
        { id: this.newId(), label: next.label, kind: 'redo', of: next.id },
        checked(this.state.model, next.again),
      )
    );
  }

  private whenHistory(act: () => boolean): false {
    void this.history?.then(() => {
      if (!this.closed) act();
    });
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

  async refreshFiles(): Promise<void> {
    await this.files.refresh();
  }

  /** Shows a step that the server will take as it is, keeps and sends it; says why it does not where it would not. */
  private step(head: Omit<SentStep, 'change'>, prepared: Prepared): boolean {
    if (!prepared.ok) {
      const why = 'invalid' in prepared ? prepared.invalid : REFUSED[prepared.refusal.code];
      this.tell(
        `"${head.label}" cannot be ${head.kind === 'undo' ? 'undone' : head.kind === 'redo' ? 'redone' : 'done'}: ${why.replace(/\.$/, '')}.`,
        true,
      );
      return false;
    }
    const step: SentStep = { ...head, change: prepared.change };
    this.pending.push(step);
    this.store.setState({
      model: prepared.model,
      history: remember(this.state.history, step),
      pendingCount: this.pending.length,
    });
    void this.keep();
    void this.flush();
    return true;
  }

  /** Keeps what is pending in the browser. */
  private async keep(): Promise<void> {
    this.showSaved();
    await this.keeper.keep(
      this.pending,
      (step) => this.pending.includes(step) || this.state.asides.some((a) => a.step.id === step.id),
    );
    this.showSaved();
  }

  /** Takes a step back that can never be saved; it is kept with its reason until the person lets it go. */
  private setAside(step: SentStep, why: string): void {
    const aside: SetAside = { step, why: why.replace(/\.$/, '') };
    this.pending = this.pending.filter((s) => s.id !== step.id);
    this.store.setState(({ asides }) => ({
      asides: [...asides.filter((a) => a.step.id !== step.id), aside],
    }));
    this.tell(`"${step.label}" was taken back: ${aside.why}.`, true);
    void this.keeper.keepAside(aside);
  }

  /** Tries steps that were set aside once more, in their order; those that still do not fit stay. Says how many were done. */
  retryAsides(): number {
    let done = 0;
    for (const { step } of [...this.state.asides]) {
      if (
        !this.step(
          { id: this.newId(), label: step.label, kind: 'do', of: null },
          prepare(this.state.model, step.change),
        )
      )
        continue;
      this.forgetAsides([step.id]);
      done++;
    }
    return done;
  }

  forgetAsides(stepIds: readonly string[]): void {
    this.store.setState(({ asides }) => ({ asides: asides.filter((a) => !stepIds.includes(a.step.id)) }));
    this.keeper.forgetAsides(stepIds);
  }

  /** Only what is kept on this machine is shown as waiting: until then it is being saved. */
  private showSaved(): void {
    if (this.closed) return;
    const away = this.failures > 0,
      kept = this.keeper.holdsAll(this.pending);
    const saved =
      this.pending.length === 0
        ? 'saved'
        : away && kept
          ? 'waiting'
          : away && this.keeper.failing
            ? 'unkept'
            : 'saving';
    if (saved !== this.state.saved) this.store.setState({ saved });
  }

  /** The shown model from the confirmed one and what is pending; pending steps that no longer fit are set aside. */
  private rebuild(): void {
    let model = this.confirmed;
    let history = this.past.history;
    for (const step of [...this.pending]) {
      const applied = apply(model, step.change);
      if (!applied.ok) {
        this.setAside(step, REFUSED[applied.refusal.code]);
        continue;
      }
      model = applied.model;
      history = remember(history, step);
    }
    this.store.setState({ model, history, pendingCount: this.pending.length });
    this.showSaved();
  }

  private async flush(): Promise<void> {
    if (this.sending || this.pending.length === 0 || this.closed) return;
    this.sending = true;
    const steps = batchOf(this.pending, this.oneByOne > 0 ? 1 : undefined);
    try {
      const answer = await api.send(this.projectId, { clientId: this.clientId, form: FORM, steps });
      this.failures = 0;
      this.oneByOne = Math.max(0, this.oneByOne - 1);
      if (this.state.away) this.store.setState({ away: null });
      const refused = answer.ok ? null : steps.find((s) => s.id === answer.stepId);
      // Others' steps may lie between ours: take the log as the server has it.
      await this.catchUp();
      if (refused && !answer.ok) {
        this.setAside(refused, answer.message);
        this.rebuild();
      }
    } catch (error) {
      this.failed(error, steps);
    } finally {
      this.sending = false;
    }
    this.showSaved();
    if (this.pending.length > 0 && this.failures === 0) void this.flush();
    else void this.follow();
  }

  private failed(error: unknown, steps: readonly SentStep[]): void {
    const remedy = this.patience.about(error, steps);
    switch (remedy.do) {
      case 'gone':
        this.store.setState({
          failure: 'This project has been deleted. It may still be in the bin on the list of projects.',
        });
        return;
      case 'part':
        this.failures = 0;
        this.oneByOne = steps.length;
        return;
      case 'set-aside':
        this.failures = 0;
        this.setAside(steps[0], remedy.why);
        this.rebuild();
        return;
      case 'wait':
        this.failures++;
        this.store.setState({ away: remedy.why });
        // Also what could not be kept before.
        void this.keep();
        if (this.retry) clearTimeout(this.retry);
        this.retry = setTimeout(
          () => void this.flush(),
          RETRY_MS[Math.min(this.failures, RETRY_MS.length) - 1],
        );
    }
  }

  /** Takes all steps that the server has and this page lacks, and drops the pending ones among them. */
  private catchUp(): Promise<void> {
    this.catching ??= (async () => {
      try {
        if (await this.takeNew()) this.rebuild();
      } finally {
        this.catching = null;
      }
    })();
    return this.catching;
  }

  /** Confirms the steps that the server has and this page lacks, as many answers as they come in. Says whether there were any. */
  private async takeNew(): Promise<boolean> {
    const before = this.seq;
    for (let more = true; more;) {
      const answer = await api.steps(this.projectId, this.seq);
      for (const step of answer.steps) this.confirm(step);
      more = answer.more;
    }
    return this.seq > before;
  }

  private confirm(sent: LogStep): void {
    if (sent.seq <= this.seq) return;
    // Of our own steps we keep our own objects: nothing that shows is another one because it has been saved.
    const own = this.pending.find((p) => p.id === sent.id),
      step = own ? { ...sent, change: own.change } : sent;
    const applied = apply(this.confirmed, step.change);
    if (applied.ok) this.confirmed = applied.model;
    this.past.add(step);
    this.seq = step.seq;
    if (!own) return;
    this.pending = this.pending.filter((p) => p.id !== step.id);
    this.keeper.letGo([own]);
  }

  private listen(): void {
    const stop = listenTo(this.projectId, {
      notice: (notice) => {
        if (notice.what === 'files') this.files.soon();
        else if (notice.what === 'changes') {
          this.told = Math.max(this.told, notice.seq);
          void this.follow();
        }
        this.serverIsBack();
      },
      open: () => {
        void this.refreshFiles();
        this.serverIsBack();
      },
    });
    // A page that was out of sight may have been put to sleep by the browser, and what it was told meanwhile is lost.
    const seen = () => {
      if (document.visibilityState === 'visible' && !this.sending) void this.catchUp().catch(() => {});
    };
    globalThis.document?.addEventListener('visibilitychange', seen);
    this.stopListening = () => {
      stop();
      globalThis.document?.removeEventListener('visibilitychange', seen);
    };
  }

  /** Fetches what the page was told of and lacks; also what it is told of while it fetches, or while it sends. */
  private async follow(): Promise<void> {
    for (let before = -1; this.told > this.seq && this.seq > before && !this.sending && !this.closed;) {
      before = this.seq;
      // Where the server does not answer, the stream breaks too, and tells anew when it is back.
      await this.catchUp().catch(() => {});
    }
  }

  /** The stream is back: so is the server. */
  private serverIsBack(): void {
    if (this.pending.length > 0 && this.failures > 0) void this.flush();
  }
}

/** When the page has nothing else to do, so that the drawing comes first; at once where there is no page. */
const whenIdle = (): Promise<void> =>
  typeof requestIdleCallback === 'undefined'
    ? Promise.resolve()
    : new Promise((resolve) => {
        requestIdleCallback(() => resolve(), { timeout: 3000 });
      });

const REFUSED = {
  exists: 'it is there already',
  missing: 'what it changes is gone',
  stale: 'what it changes has been changed meanwhile',
};
