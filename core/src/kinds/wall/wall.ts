import { determinant, type Point } from '../../geometry/index.ts';
import { heldPoints, isOnePoint, type Drawn, type Pair } from '../drawn.ts';
import type { Kind } from '../kind.ts';
import { movedEnds, straightKind } from '../straight.ts';
import { movedOpening, withOpeningEdge, type WallOpening } from './opening.ts';

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
  /** Does its top follow the roof over it, where there is one? Elsewhere its height holds. */
  underRoof?: boolean | null;
  /** The wall type that it is of; see wallTypeOf. */
  wallType?: string | null;
  /** The face, seen along its direction, at which the first layer of its type lies; absent: left. */
  firstLayer?: 'left' | 'right' | null;
  /** How deep its drawn line lies behind the face that its alignment names, as on the core behind a finish; absent: on it. */
  inset?: number | null;
  /** Doors, windows and gaps in it. */
  openings?: WallOpening[] | null;
}

const MIRRORED = { centre: 'centre', left: 'right', right: 'left' } as const;

const STRAIGHT = straightKind<Wall>();

/** The place of a wall's line that is nearest to a point. */
function onLine({ from, to }: Wall, p: Point): Pair {
  const dx = to[0] - from[0],
    dy = to[1] - from[1],
    t = ((p[0] - from[0]) * dx + (p[1] - from[1]) * dy) / (dx * dx + dy * dy);
  return [from[0] + t * dx, from[1] + t * dy];
}

/** A wall that is mirrored shows its other side to the left, so its faces stay where the mirror puts them; its thickness and height stay as they are, scaled or not. */
export const WALL: Kind<Wall> = {
  ...STRAIGHT,
  word: () => 'wall',
  layer: { name: 'Walls', colour: 0x17273a, lineType: 'solid' },
  doubts: {
    assumed: (e) => [
      ...(e.heightAssumed ? ['height'] : []),
      ...(e.openings ?? []).flatMap((o) => o.assumed.map((m) => `${m} of ${o.tag || o.kind}`)),
    ],
    confirmed: (e) => ({
      ...e,
      heightAssumed: false,
      ...(e.openings && { openings: e.openings.map((o) => ({ ...o, assumed: [] })) }),
    }),
  },
  moved: (e, map) => ({
    ...e,
    ...(e.openings && { openings: e.openings.map((o) => movedOpening(o, map)) }),
    ...movedEnds(e, map),
    alignment: determinant(map) < 0 ? MIRRORED[e.alignment] : e.alignment,
    ...(e.wallType && determinant(map) < 0 && { firstLayer: e.firstLayer === 'right' ? 'left' : 'right' }),
  }),
  // Its ends, and after them the two edges of each opening, which come and go.
  steadyGrips: 2,
  grips: (e) => [e.from, e.to, ...(e.openings ?? []).flatMap((o): [Pair, Pair] => [o.from, o.to])],
  withGrip: (e, grip, to) => {
    if (grip < 2) return STRAIGHT.withGrip(e, grip, to);
    const at = Math.floor(grip / 2) - 1,
      o = e.openings?.[at],
      moved = o && withOpeningEdge(o, grip % 2 === 0 ? 'from' : 'to', onLine(e, to));
    return moved ? { ...e, openings: e.openings!.map((other, i) => (i === at ? moved : other)) } : null;
  },
  stretched: (e, holds, by) => {
    const next = STRAIGHT.stretched(e, holds, by);
    if (!next || !e.openings) return next;
    const openings = e.openings.map((o) => {
      const held = heldPoints([o.from, o.to], holds, by);
      return held.moved ? { ...o, from: held.points[0], to: held.points[1] } : o;
    });
    if (openings.every((o, i) => o === e.openings![i])) return next;
    return openings.some((o) => isOnePoint(o.from, o.to)) ? null : { ...next, openings };
  },
};
