import { applyTransform, boxOfPoints, compose, translation, unionBox } from '../../geometry/index.ts';
import { formatLengthWithUnit } from '../../units/index.ts';
import type { Drawn } from '../drawn.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, NO_GRIPS, NO_INSIDE, type Kind } from '../kind.ts';
import { looseKind, type Loose } from '../loose.ts';

/** A group placed on a storey, perhaps turned, mirrored or scaled alike both ways. */
export interface Placed extends Drawn {
  type: 'placed';
  assemblyId: string;
  /** Group's own plane -> plane of the storey, millimetres. */
  placement: [number, number, number, number, number, number];
  /** Its elements where they show; only of what `shownOf` gives, never stored. */
  readonly members?: readonly Loose[];
}

/** A placed group with its elements where they show. They are no field that is stored, copied or compared. */
export function withMembers(placed: Placed, members: readonly Loose[]): Placed {
  return Object.defineProperty({ ...placed }, 'members', { value: members, enumerable: false });
}

/** The point by which it is placed. */
export const placedAt = (placed: Pick<Placed, 'placement'>): [number, number] =>
  applyTransform(placed.placement, [0, 0]);

const membersOf = (e: Placed): readonly Loose[] => e.members ?? [];
const lengthOf = (e: Placed) => membersOf(e).reduce((sum, m) => sum + looseKind(m).length(m), 0);
const moved: Kind<Placed>['moved'] = (e, map) => {
  const now = { ...e, placement: [...compose(map, e.placement)] as Placed['placement'] };
  return e.members
    ? withMembers(
        now,
        e.members.map((m) => looseKind(m).moved(m, map)),
      )
    : now;
};

export const PLACED: Kind<Placed> = {
  word: () => 'group',
  summary: (e, style) => formatLengthWithUnit(lengthOf(e), style),
  layer: { name: 'Groups', colour: 0x55616d, lineType: 'solid' },
  isRun: false,
  carries: true,
  rests: null,
  refers: [{ field: 'assemblyId', type: 'assembly', as: 'group' }],
  blocks: NO_BLOCKS,
  doubts: null,
  shapes: (e, layer, style) => membersOf(e).flatMap((m) => looseKind(m).shapes(m, layer, style)),
  pieces: (e) => membersOf(e).flatMap((m) => looseKind(m).pieces(m)),
  box: (e) => [boxOfPoints([placedAt(e)]), ...membersOf(e).map((m) => looseKind(m).box(m))].reduce(unionBox),
  length: lengthOf,
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: (e) => [placedAt(e)],
  joints: NO_GRIPS,
  ends: () => null,
  edges: NO_EDGES,
  moved,
  withGrip: (e, _grip, to) => {
    const [x, y] = placedAt(e);
    return moved(e, translation(to[0] - x, to[1] - y));
  },
  stretched: (e, holds, by) => (holds(placedAt(e)) ? moved(e, translation(by[0], by[1])) : e),
};
