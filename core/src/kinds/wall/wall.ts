import {
  bulgePiece,
  circleThrough,
  determinant,
  nearestOnPiece,
  pieceBox,
  pieceLength,
  segmentPiece,
  type Piece,
  type Point,
} from '../../geometry/index.ts';
import { formatLengthWithUnit } from '../../units/index.ts';
import { heldPoints, isOnePoint, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece } from '../flat-shape.ts';
import type { Kind } from '../kind.ts';
import { movedEnds, straightKind } from '../straight.ts';
import { movedOpening, withOpeningEdge, type WallOpening } from './opening.ts';

/** Where the drawn line of a wall lies, seen along its direction. */
export type WallAlignment = 'centre' | 'left' | 'right';

export type WallEnd = 'from' | 'to';
export const WALL_ENDS: readonly WallEnd[] = ['from', 'to'];

/** A height of the building: the level of a storey, or of its own storey where none is named, and how far above it, millimetres. */
export interface AtLevel {
  storeyId: string | null;
  offset: number;
}

/** A wall, straight or bent to an arc; plane millimetres. */
export interface Wall extends Drawn {
  type: 'wall';
  from: Pair;
  to: Pair;
  /** The bulge of its drawn line (see BulgePath): the tangent of a quarter of its turn, above 0 where it runs counter-clockwise. Absent or 0: straight. */
  curve?: number | null;
  thickness: number;
  alignment: WallAlignment;
  /** Of its foot; absent: the floor of its storey. */
  base?: AtLevel | null;
  /** Of its top, in its own storey the level to which that reaches; absent: its height above its foot. What follows from both: see standing. */
  top?: AtLevel | null;
  /** Above its foot, where no level says where its top is. */
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
  /** At which of its ends it runs on to the far face of the wall that it meets in a corner, which then stops at it; elsewhere corners are mitred. */
  runsThrough?: WallEnd[] | null;
  /** Doors, windows, gaps and niches in it. */
  openings?: WallOpening[] | null;
}

const MIRRORED = { centre: 'centre', left: 'right', right: 'left' } as const;

const STRAIGHT = straightKind<Wall>();

/** The drawn line of a wall. */
export const wallPiece = ({ from, to, curve }: Pick<Wall, 'from' | 'to' | 'curve'>): Piece =>
  curve ? bulgePiece(from, to, curve) : segmentPiece(from, to);

/** The place of a wall's line that is nearest to a point. */
function onLine(wall: Wall, p: Point): Pair {
  const { from, to } = wall,
    piece = wallPiece(wall);
  if (piece.kind === 'arc') return nearestOnPiece(piece, p);
  const dx = to[0] - from[0],
    dy = to[1] - from[1],
    t = ((p[0] - from[0]) * dx + (p[1] - from[1]) * dy) / (dx * dx + dy * dy);
  return [from[0] + t * dx, from[1] + t * dy];
}

/** The bulge of an arc through a point, from one end to the other; 0 where the three lie on a line, null where it would turn by more than half. */
export function curveThrough(from: Point, to: Point, through: Point): number | null {
  const circle = circleThrough(from, through, to),
    chord = Math.hypot(to[0] - from[0], to[1] - from[1]),
    left = (to[0] - from[0]) * (through[1] - from[1]) - (to[1] - from[1]) * (through[0] - from[0]);
  if (!circle || chord === 0) return 0;
  // On the side of its centre the arc is the longer one.
  const toCentre = (to[0] - from[0]) * (circle.cy - from[1]) - (to[1] - from[1]) * (circle.cx - from[0]);
  if (left * toCentre > 0) return null;
  const half = Math.asin(Math.min(1, chord / (2 * circle.r)));
  return -Math.sign(left) * Math.tan(half / 2);
}

/** A wall that is mirrored shows its other side to the left, so its faces stay where the mirror puts them; its thickness and height stay as they are, scaled or not. */
export const WALL: Kind<Wall> = {
  ...STRAIGHT,
  summary: (e, style) => formatLengthWithUnit(pieceLength(wallPiece(e)), style),
  shapes: (e, layer) => [shapeOfPiece(wallPiece(e), layer)],
  pieces: (e) => [wallPiece(e)],
  box: (e) => pieceBox(wallPiece(e)),
  length: (e) => pieceLength(wallPiece(e)),
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
    ...(e.curve && determinant(map) < 0 && { curve: -e.curve }),
    alignment: determinant(map) < 0 ? MIRRORED[e.alignment] : e.alignment,
    ...(e.wallType && determinant(map) < 0 && { firstLayer: e.firstLayer === 'right' ? 'left' : 'right' }),
  }),
  // Its ends, and after them the two edges of each opening, which come and go.
  steadyGrips: 2,
  grips: (e) => [e.from, e.to, ...(e.openings ?? []).flatMap((o): [Pair, Pair] => [o.from, o.to])],
  withGrip: (e, grip, to) => {
    if (grip < 2) {
      const next = STRAIGHT.withGrip(e, grip, to);
      return next && isRoundEnough(next) ? next : null;
    }
    const at = Math.floor(grip / 2) - 1,
      o = e.openings?.[at],
      moved = o && withOpeningEdge(o, grip % 2 === 0 ? 'from' : 'to', onLine(e, to));
    return moved ? { ...e, openings: e.openings!.map((other, i) => (i === at ? moved : other)) } : null;
  },
  stretched: (e, holds, by) => {
    const next = STRAIGHT.stretched(e, holds, by);
    if (!next || !isRoundEnough(next)) return null;
    if (!e.openings) return next;
    const openings = e.openings.map((o) => {
      const held = heldPoints([o.from, o.to], holds, by);
      return held.moved ? { ...o, from: held.points[0], to: held.points[1] } : o;
    });
    if (openings.every((o, i) => o === e.openings![i])) return next;
    return openings.some((o) => isOnePoint(o.from, o.to)) ? null : { ...next, openings };
  },
};

/** More than half a turn is drawn as two walls. */
const MOST_CURVE = 1;

/** Has the bend of a wall room for its thickness within it, and is it no more than half a turn? */
export function isRoundEnough({
  from,
  to,
  curve,
  thickness,
  alignment,
  inset,
}: Pick<Wall, 'from' | 'to' | 'curve' | 'thickness' | 'alignment' | 'inset'>): boolean {
  if (!curve) return true;
  const chord = Math.hypot(to[0] - from[0], to[1] - from[1]),
    radius = (chord * (1 + curve * curve)) / (4 * Math.abs(curve)),
    // The centre lies to the left of a line that runs counter-clockwise.
    inner =
      alignment === 'centre'
        ? thickness / 2
        : (alignment === 'left') === curve > 0
          ? (inset ?? 0)
          : thickness - (inset ?? 0);
  return Math.abs(curve) <= MOST_CURVE && radius > inner + 1;
}
