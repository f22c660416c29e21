import type { Box } from '@calque/core/geometry';
import { LiveItems, Snapper, type LivePieces } from '@calque/core/snapping';

/** What picks find of a trace. It is made when it is first asked for, or when the page is idle, so that the drawing shows before. */
export class TraceIndex {
  private made: { items: LiveItems; snapper: Snapper } | null = null;

  /** `owners`: what each element gives, as it is when the index is made; `box`: the box around them without it. */
  constructor(
    private readonly owners: () => Iterable<readonly [string, LivePieces]>,
    private readonly box: () => Box | null,
  ) {
    if (typeof requestIdleCallback !== 'undefined') requestIdleCallback(() => this.ready);
  }

  private get ready(): { items: LiveItems; snapper: Snapper } {
    if (!this.made) {
      const items = new LiveItems();
      items.fill(this.owners());
      this.made = { items, snapper: new Snapper(items) };
    }
    return this.made;
  }

  get isMade(): boolean {
    return this.made !== null;
  }
  get items(): LiveItems {
    return this.ready.items;
  }
  get snapper(): Snapper {
    return this.ready.snapper;
  }
  get bounds(): Box | null {
    return this.made ? this.made.items.bounds : this.box();
  }

  /** Follows a changed element; one that is not made yet will find it as it is then. */
  set(owner: string, pieces: LivePieces): void {
    this.made?.items.set(owner, pieces);
  }
}
