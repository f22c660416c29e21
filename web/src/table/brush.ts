import type { Palette } from './palette';
import type { WordRoom } from './painters/word-room';
import type { Viewport } from './viewport';

/** What is painted with: the canvas, the view that it shows and the colours, and the way onto the screen (CSS pixels). */
export interface Brush {
  context: CanvasRenderingContext2D;
  view: Viewport;
  palette: Palette;
  at(p: readonly [number, number]): [number, number];
  /** Where words are still free to stand; without, they stand where they are put. */
  room?: WordRoom;
}
