import type { Box, Point, Ring } from '@calque/core/geometry';
import type { ProposedOpening } from '@calque/core/proposals';
import type { Shape } from '@/drawing/drawn';
import type { SeenKey } from './seen';

/** A thing of the sheet that can be taken, where it lies on the plane. */
export interface Offer {
  key: SeenKey;
  /** What it becomes. */
  shape: Shape;
  confidence: number;
  doubts: readonly string[];
  /** Its middle. */
  at: Point;
  /** Of walls, the number of their class among the thicknesses that were found. */
  thicknessClass: number;
  openings: readonly ProposedOpening[];
  /** Of rooms what encloses them. */
  ring?: Ring;
  /** What it lies within. */
  box: Box;
}
