import type { PendingStore, SetAside } from './pending';
import type { SentStep } from './wire';

/** Keeps one page's steps in the browser, and knows which of them really are kept. */
export class StepKeeper {
  /** Ids of steps that are on the disk of this machine, and of those on their way there. */
  private readonly kept = new Set<string>();
  private readonly going = new Set<string>();
  /** The last attempt failed: this browser keeps nothing, or not now. */
  failing = false;

  constructor(
    private readonly store: PendingStore,
    private readonly projectId: string,
  ) {}

  /** Keeps those of the pending steps that are not yet, also after an earlier attempt failed. `isPending` tells afterwards whether a step still need be. */
  async keep(pending: readonly SentStep[], isPending: (step: SentStep) => boolean): Promise<void> {
    const missing = pending.filter((s) => !this.kept.has(s.id) && !this.going.has(s.id));
    if (missing.length === 0) return;
    missing.forEach((s) => this.going.add(s.id));
    try {
      await this.store.add(this.projectId, missing);
      missing.forEach((s) => this.kept.add(s.id));
      this.failing = false;
    } catch {
      this.failing = true;
    }
    missing.forEach((s) => this.going.delete(s.id));
    // Taken by the server before it was kept: it need not be.
    this.letGo(missing.filter((s) => !isPending(s)));
  }

  holdsAll(pending: readonly SentStep[]): boolean {
    return pending.every((s) => this.kept.has(s.id));
  }

  /** Steps that other tabs have left; they are this page's from now on. */
  async takeLeft(): Promise<SentStep[]> {
    const left = await this.store.takeLeft(this.projectId).catch(() => []);
    left.forEach((s) => this.kept.add(s.id));
    return left;
  }

  /** What the server has is kept as pending no longer. */
  letGo(steps: readonly SentStep[]): void {
    if (steps.length === 0) return;
    steps.forEach((s) => this.kept.delete(s.id));
    void this.store.remove(steps.map((s) => s.id)).catch(() => {});
  }

  asides(): Promise<SetAside[]> {
    return this.store.asides(this.projectId).catch(() => []);
  }

  /** A step that could not be saved goes from the pending ones only when it is kept among those set aside. */
  async keepAside(aside: SetAside): Promise<void> {
    await this.store.setAside(this.projectId, aside).then(
      () => this.letGo([aside.step]),
      () => {},
    );
  }

  forgetAsides(stepIds: readonly string[]): void {
    void this.store.forgetAside(stepIds).catch(() => {});
  }
}
