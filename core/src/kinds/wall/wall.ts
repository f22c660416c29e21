import { applyTransform, determinant } from '../../geometry/index.ts';
import type { Drawn, Pair } from '../drawn.ts';
import type { Kind } from '../kind.ts';
import { movedEnds, straightKind } from '../straight.ts';

/** Where the drawn line of a wall lies, seen along its direction. */
export type WallAlignment = 'centre' | 'left' | 'right';

/** A straight wall; plane millimetres. */
export interface Wall extends Drawn {
  type: 'wall';
  from: Pair;
  to: Pair;
  thickness: number;
  alignment: WallAlignment;
  height: number;
  heightAssumed: boolean;
  /** Where the plan shows doors and windows in it: along its line, as they were when it was taken; nothing is cut out of it yet. */
  openings?: { from: Pair; to: Pair }[] | null;
}

const MIRRORED = { centre: 'centre', left: 'right', right: 'left' } as const;

/** A wall that is mirrored shows its other side to the left, so its faces stay where the mirror puts them; its thickness and height stay as they are, scaled or not. */
export const WALL: Kind<Wall> = {
  ...straightKind<Wall>(),
  word: () => 'wall',
  layer: { name: 'Walls', colour: 0x17273a, lineType: 'solid' },
  moved: (e, map) => ({
    ...e,
    ...(e.openings && {
      openings: e.openings.map((o) => ({ from: applyTransform(map, o.from), to: applyTransform(map, o.to) })),
    }),
    ...movedEnds(e, map),
    alignment: determinant(map) < 0 ? MIRRORED[e.alignment] : e.alignment,
  }),
};
