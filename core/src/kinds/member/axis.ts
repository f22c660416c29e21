import { cross3, minus3, type ModelPoint, type Point } from '../../geometry/index.ts';
import type { Drawn, Pair } from '../drawn.ts';
import type { Joint, MemberLevel, PurlinCleat } from './joint.ts';
import type { GivenSection } from './given-section.ts';

/** What a member is for: says how it is counted and delivered. */
export type MemberRole = 'beam' | 'column' | 'brace' | 'rafter' | 'purlin' | 'joist' | 'stud' | 'member';
export const MEMBER_ROLES: readonly MemberRole[] = [
  'beam',
  'column',
  'brace',
  'rafter',
  'purlin',
  'joist',
  'stud',
  'member',
];

/** The nine points of a section's box, row by row from the lower left, seen from the member's start to its end. */
export type PlacingPoint = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9;
export const PLACING_POINTS: readonly PlacingPoint[] = [1, 2, 3, 4, 5, 6, 7, 8, 9];

/**
 * A straight piece of a frame: a section along a line. The line lies on its plane, `rise` millimetres out of it at either end; one that
 * stands square on its plane begins and ends at one place of it.
 */
export interface Member extends Drawn {
  type: 'member';
  from: Pair;
  to: Pair;
  rise: Pair;
  section: GivenSection;
  /** The point of the section's box that lies on the line. */
  point: PlacingPoint;
  /** How the section is turned about the line, radians, counter-clockwise seen from start to end: at 0 it stands out of the plane. */
  turn: number;
  /** Is its left its right? As mirrored copies have it. */
  mirrored: boolean;
  /** How far it is cut back at its start and end. */
  back: Pair;
  /** How its ends are made, where they are not cut square. */
  joints?: Joint[] | null;
  /** The cleats by which it is held on members that it runs over. */
  cleats?: PurlinCleat[] | null;
  /** Ends that were put at printed levels. */
  levels?: MemberLevel[] | null;
  role: MemberRole;
  material: string;
  /** kg/m3. */
  density: number;
  /** As lists name it; perhaps nothing. */
  mark: string;
  /** How its ends are cut by what they meet; only of what is shown, never stored. */
  cut?: MemberCuts;
}

/** An end as a plane: so far along from where the member begins at the middle of its section, and how much more for each millimetre of the section's x and y. */
export interface MemberCut {
  z: number;
  kx: number;
  ky: number;
}
export type MemberCuts = Readonly<Record<'start' | 'end', MemberCut>>;

/** How far along a cut lies at a place of the section. */
export const cutAt = ({ z, kx, ky }: MemberCut, [x, y]: Point): number => z + kx * x + ky * y;

/** A line in the space of its plane, out of which z goes, with the directions of the section on it. */
export interface MemberAxis {
  from: ModelPoint;
  along: ModelPoint;
  /** Up and to the right of the section, seen from start to end. */
  up: ModelPoint;
  right: ModelPoint;
  length: number;
  /** Does it stand square on its plane? Then 1 where it goes out of it, -1 where it goes in; else 0. */
  endOn: -1 | 0 | 1;
}

/** A line leans out of its plane by less than this (sine of what is left) when it stands square on it. */
const SQUARE_ON = 1e-9;

export function memberAxis({
  from,
  to,
  rise,
  turn,
}: Pick<Member, 'from' | 'to' | 'rise' | 'turn'>): MemberAxis {
  const start: ModelPoint = [from[0], from[1], rise[0]],
    d = minus3([to[0], to[1], rise[1]], start),
    length = Math.hypot(...d),
    along: ModelPoint = [d[0] / length, d[1] / length, d[2] / length],
    flat = Math.hypot(along[0], along[1]),
    endOn = flat > SQUARE_ON ? 0 : along[2] > 0 ? 1 : -1;
  // Out of the plane, less what of that goes along the line.
  const up0: ModelPoint =
      endOn === 0 ? [(-along[0] * along[2]) / flat, (-along[1] * along[2]) / flat, flat] : [1, 0, 0],
    right0 = cross3(along, up0),
    [c, s] = [Math.cos(turn), Math.sin(turn)],
    mix = (a: ModelPoint, ka: number, b: ModelPoint, kb: number): ModelPoint => [
      ka * a[0] + kb * b[0],
      ka * a[1] + kb * b[1],
      ka * a[2] + kb * b[2],
    ];
  return { from: start, along, length, endOn, up: mix(up0, c, right0, -s), right: mix(right0, c, up0, s) };
}

/** Where a place of a section's box lies to its right and above, seen from start to end. */
export const placingOffset = (point: PlacingPoint, b: number, h: number): Point => [
  (((point - 1) % 3) - 1) * (b / 2),
  (Math.floor((point - 1) / 3) - 1) * (h / 2),
];
