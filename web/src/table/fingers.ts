import type { Viewport } from './viewport';
import { zoomAbout } from './viewport';

type Place = [number, number];

/** So long a finger or pen rests until it steps through what lies under it, milliseconds. */
const REST_MS = 550;

/** What fingers drive: the surface, as far as they need to know it. */
interface Held {
  readonly view: Viewport;
  setView(view: Viewport): void;
  nextCandidate(): void;
}

/** Fingers on the drawing: two move and zoom it; one that rests steps through what lies there. */
export class Fingers {
  private readonly down = new Map<number, Place>();
  private resting: ReturnType<typeof setInterval> | null = null;
  /** Two fingers have been down since the first: what is lifted last picks nothing. */
  private gesture = false;
  /** Has the one finger stepped through what lies there? Then what it chose is picked. */
  stepped = false;

  constructor(private readonly held: Held) {}

  /** A finger has come down. Says whether it is the second, which makes a gesture of both. */
  press(id: number, at: Place): boolean {
    this.down.set(id, at);
    this.rest();
    if (this.down.size === 1) {
      this.gesture = false;
      this.stepped = false;
      this.resting = setInterval(() => {
        this.stepped = true;
        this.held.nextCandidate();
      }, REST_MS);
    }
    if (this.down.size > 1) this.gesture = true;
    return this.gesture;
  }

  /** A finger has moved. Says whether that moved the view. */
  move(id: number, at: Place): boolean {
    const before = this.down.get(id);
    if (!before) return false;
    const [other] = [...this.down].filter(([i]) => i !== id).map(([, p]) => p);
    this.down.set(id, at);
    if (!this.gesture) return false;
    if (other) this.held.setView(pinched(this.held.view, [before, other], [at, other]));
    return true;
  }

  /** It has gone farther than a hand trembles: it rests no more. */
  rest(): void {
    if (this.resting) clearInterval(this.resting);
    this.resting = null;
  }

  /** A finger is lifted. Says whether it belonged to a gesture. */
  lift(id: number): boolean {
    this.rest();
    this.down.delete(id);
    return this.gesture;
  }
}

/** The view when two fingers have gone from places to others: what lay between them stays between them. */
export function pinched(
  view: Viewport,
  from: readonly [Place, Place],
  to: readonly [Place, Place],
): Viewport {
  const middle = ([a, b]: readonly [Place, Place]): Place => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2],
    apart = ([a, b]: readonly [Place, Place]) => Math.hypot(b[0] - a[0], b[1] - a[1]);
  const was = middle(from),
    is = middle(to),
    factor = apart(from) > 1 && apart(to) > 1 ? apart(to) / apart(from) : 1;
  const zoomed = zoomAbout(view, factor, was);
  return { ...zoomed, x: zoomed.x + is[0] - was[0], y: zoomed.y + is[1] - was[1] };
}
