import type { Room } from '@calque/core/building';
import type { Ring } from '@calque/core/geometry';
import type { Loose } from '@calque/core/model';
import type { LengthStyle } from '@calque/core/units';
import type { Brush } from '../brush';

/** What a kind paints with: its colour is set already, and how much of it shows. */
export interface Painting {
  brush: Brush;
  /** Share of what is painted here that shows. */
  alpha: number;
  colour: string;
  style: LengthStyle;
  /** The rooms that walls enclose on the plane; null while they are not known. */
  rooms: readonly Room[] | null;
}

/** How a kind of element is painted beside its lines. */
export interface Painter<E extends Loose> {
  /** Are its pieces drawn as lines, together with others that look alike? */
  readonly strokes: boolean;
  /** What lies below all lines: fills and hatches. */
  below?(painting: Painting, e: E): void;
  /** What lies above them: letters and marks. */
  above?(painting: Painting, e: E): void;
  /** Are its words written where there is room? Then those that have a place of their own come first. */
  readonly seeksRoom?: boolean;
  /** What stands for it while it is moved, where that is not its lines. */
  outline?(e: E): Ring;
}
