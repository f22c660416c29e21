import type { Drawn, Pair } from '../drawn.ts';
import { NO_GRIPS, type Kind } from '../kind.ts';
import { straightKind } from '../straight.ts';

/** A grid line of the building, named in a ring at its first end. */
export interface GridLine extends Drawn {
  type: 'gridLine';
  from: Pair;
  to: Pair;
  name: string;
}

export const GRID_LINE: Kind<GridLine> = {
  ...straightKind<GridLine>(),
  word: () => 'grid line',
  summary: (e) => e.name,
  layer: { name: 'Grid lines', colour: 0x8a5a12, lineType: 'dash-dot' },
  joints: NO_GRIPS,
  ends: () => null,
};
