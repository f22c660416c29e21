import type { Drawn, Pair } from '../drawn.ts';
import type { Kind } from '../kind.ts';
import { straightKind } from '../straight.ts';

/** A line to draw by: found by picks like any other, and never part of what is delivered or counted. */
export interface ConstructionLine extends Drawn {
  type: 'constructionLine';
  from: Pair;
  to: Pair;
}

export const CONSTRUCTION_LINE: Kind<ConstructionLine> = {
  ...straightKind<ConstructionLine>(),
  word: () => 'construction line',
  layer: { name: 'Construction lines', colour: 0x8a2b69, lineType: 'dash-dot' },
  shapes: () => [],
};
