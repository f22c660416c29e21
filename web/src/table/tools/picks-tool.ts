import type { NamedPlace } from '../snapping';
import type { Brush } from '../brush';
import type { FieldRequest, Pick, Tool } from '../tool';
import { paintStretch } from '../painters/overlay';

export interface PicksPlan {
  id: string;
  /** Words for each pick in turn. */
  steps: readonly string[];
  onlyUnderlay?: string;
  /** Shown along the stretch from the first pick, to the cursor or the second. */
  measure?(from: Pick, to: Pick): string;
  /** Places on the underlay that come before what the linework has there. */
  named?(): readonly NamedPlace[];
  /** What the first pick points at as a whole: both its ends at once, with words for it. */
  whole?(pick: Pick): { picks: readonly [Pick, Pick]; words: string } | null;
  /** Every pick must lie on something; said when it does not. */
  mustSnap?: string;
  /** Why a second pick does not do beside the first one, told at once; null where it does. */
  apart?(first: Pick, second: Pick): string | null;
  /** After the first pick: true when that one is enough. */
  first?(pick: Pick): boolean;
  /** Asked for when all picks are there; without it `done` is called at once. */
  ask?(picks: readonly Pick[]): Omit<FieldRequest, 'at'>;
  submit?(picks: readonly Pick[], values: Record<string, string>): string | null;
  done(picks: readonly Pick[]): void;
  refused?(message: string): void;
  /** What was picked stays in sight after the end. */
  keeps?: boolean;
  /** Start again after the end, for measuring. */
  repeats?: boolean;
}

/** A few picks, then perhaps a figure at the cursor, then it is done. */
export class PicksTool implements Tool {
  readonly id: string;
  readonly snaps = true;
  readonly cursor = 'crosshair';
  readonly onlyUnderlay?: string;
  protected picks: Pick[] = [];
  protected hover: Pick | null = null;
  private pointed: { picks: readonly [Pick, Pick]; words: string } | null = null;

  constructor(private readonly plan: PicksPlan) {
    this.id = plan.id;
    this.onlyUnderlay = plan.onlyUnderlay;
  }

  protected get complete(): boolean {
    return this.picks.length === this.plan.steps.length;
  }

  words(): string {
    if (!this.complete) return this.plan.steps[this.picks.length];
    return this.plan.ask
      ? 'Type the figure and press Enter · Esc picks again'
      : `${this.plan.steps[0]} to go on · Esc ends`;
  }

  anchor(): [number, number] | null {
    return this.complete ? null : (this.picks.at(-1)?.plane ?? null);
  }

  move(pick: Pick): void {
    this.hover = pick;
    // Once ends are picked they are what is asked about, wherever the pointer goes.
    this.pointed = this.picks.length === 0 ? (this.plan.whole?.(pick) ?? null) : null;
  }

  named(): readonly NamedPlace[] {
    return this.plan.named?.() ?? [];
  }

  instead(): string | null {
    return this.pointed ? this.pointed.words : this.complete && this.plan.ask ? '' : null;
  }

  press(pick: Pick): void {
    if (this.complete) this.picks = [];
    if (this.plan.mustSnap && !pick.found) {
      this.plan.refused?.(this.plan.mustSnap);
      return;
    }
    const why = this.picks.length === 1 ? (this.plan.apart?.(this.picks[0], pick) ?? null) : null;
    if (why !== null) {
      this.plan.refused?.(why);
      return;
    }
    const whole = this.picks.length === 0 ? this.plan.whole?.(pick) : null;
    this.pointed = null;
    this.picks = whole ? [...whole.picks] : [...this.picks, pick];
    if (this.picks.length === 1 && this.plan.first?.(pick)) {
      this.picks = [];
      return;
    }
    if (this.complete && !this.plan.ask) this.finish();
  }

  private finish(): void {
    const { picks } = this;
    if (!this.plan.repeats && !this.plan.keeps) this.picks = [];
    this.plan.done(picks);
  }

  field(): FieldRequest | null {
    if (!this.complete || !this.plan.ask) return null;
    const [a, b] = [this.picks[0].plane, this.picks.at(-1)!.plane];
    return { ...this.plan.ask(this.picks), at: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] };
  }

  submit(values: Record<string, string>): string | null {
    if (!this.complete) return null;
    const message = this.plan.submit?.(this.picks, values) ?? null;
    if (message === null) this.finish();
    return message;
  }

  paint(brush: Brush): void {
    if (this.pointed) {
      const [a, b] = this.pointed.picks;
      paintStretch(brush, a.plane, b.plane, this.pointed.words, brush.palette.found, true);
      return;
    }
    const from = this.picks[0];
    const to = this.picks[1] ?? this.hover;
    if (!from || !to || this.plan.steps.length < 2) return;
    paintStretch(
      brush,
      from.plane,
      to.plane,
      this.plan.measure?.(from, to) ?? '',
      brush.palette.now,
      !this.complete,
    );
  }

  key(event: KeyboardEvent): boolean {
    if (event.key !== 'Backspace' || this.picks.length === 0) return false;
    this.picks = this.picks.slice(0, -1);
    return true;
  }

  cancel(): boolean {
    const had = this.picks.length > 0;
    this.picks = [];
    return had;
  }
}
