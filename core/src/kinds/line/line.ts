import { meanScale } from '../../geometry/index.ts';
import { scaledDashes, type Dashed, type Drawn, type Pair } from '../drawn.ts';
import type { Kind } from '../kind.ts';
import { movedEnds, straightKind } from '../straight.ts';

/** A plain line; plane millimetres. */
export interface Line extends Drawn, Dashed {
  type: 'line';
  from: Pair;
  to: Pair;
}

export const LINE: Kind<Line> = {
  ...straightKind<Line>(),
  word: () => 'line',
  layer: { name: 'Lines', colour: 0x55616d, lineType: 'solid' },
  moved: (e, map) => ({ ...e, ...scaledDashes(e, meanScale(map)), ...movedEnds(e, map) }),
};
