import type { Insets, Viewport } from './viewport';

const WAYS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** A press of an arrow moves the cursor so far, CSS pixels; with Ctrl by one. A held key goes faster. */
const STEP = 10,
  FAST = 4,
  FAST_AFTER = 12;
/** The cursor keeps so far from what hides the drawing; the drawing moves instead. */
const MARGIN = 30;

interface Surface {
  readonly view: Viewport;
  readonly lastPick: { screen: [number, number] } | null;
  readonly state: { getState(): { size: { width: number; height: number }; insets: Insets } };
  setView(view: Viewport): void;
  moveTo(screen: [number, number], shift: boolean, alt: boolean): void;
  showKeyCursor(shown: boolean): void;
}

/** The cursor of the drawing moved by the arrow keys, so that everything can be picked without a pointer. */
export class KeyCursor {
  private held = 0;
  /** Has it moved since it was last clicked with? Only then does Enter click. */
  private moved = false;

  constructor(private readonly surface: Surface) {}

  /** Where the cursor is; in the middle of the free drawing where it has not been yet. */
  private get at(): [number, number] {
    const { size, insets } = this.surface.state.getState();
    return (
      this.surface.lastPick?.screen ?? [
        (insets.left + size.width - insets.right) / 2,
        (insets.top + size.height - insets.bottom) / 2,
      ]
    );
  }

  /** Moves by an arrow key; false for any other. */
  move(event: KeyboardEvent): boolean {
    const way = WAYS[event.key];
    if (!way) return false;
    this.held = event.repeat ? this.held + 1 : 0;
    const step = event.ctrlKey ? 1 : this.held > FAST_AFTER ? FAST * STEP : STEP;
    const { size, insets } = this.surface.state.getState(),
      [x, y] = this.at,
      { view } = this.surface;
    const wanted: [number, number] = [x + way[0] * step, y + way[1] * step];
    const free: [number, number] = [
      Math.min(Math.max(wanted[0], insets.left + MARGIN), size.width - insets.right - MARGIN),
      Math.min(Math.max(wanted[1], insets.top + MARGIN), size.height - insets.bottom - MARGIN),
    ];
    if (free[0] !== wanted[0] || free[1] !== wanted[1])
      this.surface.setView({ ...view, x: view.x + free[0] - wanted[0], y: view.y + free[1] - wanted[1] });
    this.moved = true;
    this.surface.showKeyCursor(true);
    this.surface.moveTo(free, event.shiftKey, event.altKey);
    return true;
  }

  /** Is Enter a click now? It is one for each place that the cursor was moved to. */
  takeClick(): boolean {
    const { moved } = this;
    this.moved = false;
    return moved;
  }

  /** The pointer has taken over. */
  rest(): void {
    this.moved = false;
    this.surface.showKeyCursor(false);
  }
}
