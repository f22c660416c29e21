import type { Kind } from './kind.ts';
import { LOOSE_KINDS, type Loose } from './loose.ts';
import { PLACED, type Placed } from './placed/placed.ts';

export type { Anchor, Bar, Edge, Kind, Refers, Rests } from './kind.ts';
export { shapeOfPiece, type Shape } from './flat-shape.ts';
export { LOOSE_KINDS, looseKind, type Loose } from './loose.ts';
export * from './drawn.ts';
export * from './wall/wall.ts';
export * from './wall/opening.ts';
export * from './wall/layers.ts';
export * from './line/line.ts';
export * from './grid-line/grid-line.ts';
export * from './grid-line/names.ts';
export * from './arc/arc.ts';
export * from './path/path.ts';
export * from './spline/spline.ts';
export * from './text/text.ts';
export * from './dimension/dimension.ts';
export * from './dimension/lines.ts';
export * from './area/area.ts';
export * from './area/figures.ts';
export * from './placed/placed.ts';
export * from './symbol/symbol.ts';
export * from './space/space.ts';
export * from './open-boundary/open-boundary.ts';
export * from './slab/slab.ts';
export * from './column/column.ts';
export * from './roof/roof.ts';
export * from './roof/shape.ts';
export * from './member/axis.ts';
export * from './member/joint.ts';
export * from './member/member.ts';
export * from './member/given-section.ts';
export * from './plate/plate.ts';
export * from './bolts/bolts.ts';
export * from './construction-line/construction-line.ts';
export { isCorner, memberLook } from './member/look.ts';
export * from './stair/stair.ts';
export * from './stair/steps.ts';
export { flatRings, ringPieces, type OutlineRing } from './ringed.ts';

/** All that can be traced. */
export type Traced = Loose | Placed;

/** The one table of kinds: the compiler refuses a kind that does not answer. */
export const KINDS = { ...LOOSE_KINDS, placed: PLACED } as const satisfies {
  [T in Traced['type']]: Kind<Extract<Traced, { type: T }>>;
};

export const TRACED_TYPES = Object.keys(KINDS) as readonly Traced['type'][];

/** The kind of an element, to be asked about it. */
export const kindOf = <E extends Traced>(e: E): Kind<E> => KINDS[e.type] as unknown as Kind<E>;
