import type { Piece } from '../../geometry/index.ts';

/** What of a solid is seen looking square onto a plane: its edges and outlines in that plane's own millimetres. */
export interface SolidView {
  visible: Piece[];
  /** Behind something of the solid, and behind no visible one of the same course. */
  hidden: Piece[];
}
