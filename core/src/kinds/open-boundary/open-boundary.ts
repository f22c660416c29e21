import type { Drawn, Pair } from '../drawn.ts';
import type { Kind } from '../kind.ts';
import { straightKind } from '../straight.ts';

/** Where one room ends and the next begins though no wall stands between them; plane millimetres. */
export interface OpenBoundary extends Drawn {
  type: 'openBoundary';
  from: Pair;
  to: Pair;
}

export const OPEN_BOUNDARY: Kind<OpenBoundary> = {
  ...straightKind<OpenBoundary>(),
  word: () => 'open boundary',
  layer: { name: 'Open boundaries', colour: 0x2b7553, lineType: 'dashed' },
};
