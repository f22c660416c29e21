import { normalAngle, type Point } from '../geometry/index.ts';
import type { WallBand } from './wall-geometry.ts';

/** How one end of a wall meets another: in a corner of two, or as a stem that ends in the body of one that runs on. */
export type Meeting = { node: Point; other: string } & (
  | {
      kind: 'corner';
      otherAtStart: boolean;
      /** Which of them runs on to the far face; none where it is mitred. */ through: 'this' | 'other' | null;
    }
  | { kind: 'tee' }
);
export interface WallMeets {
  start: Meeting | null;
  end: Meeting | null;
  cuts: { start: Cut; end: Cut };
}

/** One end of a wall seen from its node: the direction leads away from the node. */
export interface End {
  band: WallBand;
  atStart: boolean;
  node: Point;
  dx: number;
  dy: number;
  left: number;
  right: number;
  angle: number;
}

/** Where the faces of a wall end, what lies between from left to right, and whether nothing else is there. */
export interface Cut {
  left: Point;
  right: Point;
  between: readonly Point[];
  isFree: boolean;
}

/** Directions closer than this (sine) are parallel: their faces do not meet. */
const PARALLEL = 1e-6;

export function endOf(band: WallBand, atStart: boolean): End {
  const sign = atStart ? 1 : -1;
  const dx = band.ux * sign,
    dy = band.uy * sign;
  return {
    band,
    atStart,
    node: atStart ? band.from : band.to,
    dx,
    dy,
    left: atStart ? band.left : band.right,
    right: atStart ? band.right : band.left,
    angle: Math.atan2(dy, dx),
  };
}

export const beside = (e: End, left: number): Point => [e.node[0] - e.dy * left, e.node[1] + e.dx * left];
export const squareCut = (e: End): Cut => ({
  left: beside(e, e.left),
  right: beside(e, -e.right),
  between: [],
  isFree: true,
});

/** Where two lines meet; null where they are parallel. */
export function meet(p: Point, dx: number, dy: number, q: Point, ex: number, ey: number): Point | null {
  const cross = dx * ey - dy * ex;
  if (Math.abs(cross) < PARALLEL) return null;
  const t = ((q[0] - p[0]) * ey - (q[1] - p[1]) * ex) / cross;
  return [p[0] + t * dx, p[1] + t * dy];
}

/** The end of a wall in a corner, with how far its core goes to the left and right of its line: all of it where nothing is known of its layers. */
export interface CornerEnd {
  end: End;
  core: { left: number; right: number };
}

/**
 * How two ends part their corner, layer by layer: what lies outside both cores meets with its like, and so does what lies inside; what lies
 * farther out goes round what lies within it. `runsOn`: the layers of the first go on to those of the other, which stop at them; otherwise
 * like is mitred with like.
 */
export function cornerCuts(
  first: CornerEnd,
  other: CornerEnd,
  runsOn: boolean,
): { through: Cut; other: Cut } {
  const [a, b] = [first.end, other.end],
    // Round from the first to the other: within half a turn its left is the inner side, and the right of the other.
    isLeft = normalAngle(b.angle - a.angle) < Math.PI,
    sides = ({ end, core }: CornerEnd, innerIsLeft: boolean): readonly number[] => {
      const all = [end.left, core.left, -core.right, -end.right];
      return innerIsLeft ? all : all.reverse();
    },
    // From the inner face to the outer one.
    [ofA, ofB] = [sides(first, isLeft), sides(other, !isLeft)],
    at = (i: number, j: number): Point =>
      meet(beside(a, ofA[i]), a.dx, a.dy, beside(b, ofB[j]), b.dx, b.dy) ?? a.node,
    points = (places: readonly (readonly [number, number])[]) => places.map(([i, j]) => at(i, j)),
    cut = (inner: Point, between: Point[], outer: Point, innerIsLeft: boolean): Cut =>
      innerIsLeft
        ? { left: inner, between, right: outer, isFree: false }
        : { left: outer, between: between.reverse(), right: inner, isFree: false };
  if (!runsOn) {
    const between = () =>
      points([
        [1, 1],
        [2, 2],
      ]);
    return {
      through: cut(at(0, 0), between(), at(3, 3), isLeft),
      other: cut(at(0, 0), between(), at(3, 3), !isLeft),
    };
  }
  const shared = points([
      [0, 1],
      [1, 1],
      [1, 2],
      [2, 2],
    ]),
    // Without anything outside its core the other ends at the core of the first.
    goesRound = ofB[2] !== ofB[3];
  return {
    through: cut(at(0, 0), [...shared, at(2, 3)], at(3, 3), isLeft),
    other: goesRound
      ? cut(at(0, 0), [...shared], at(2, 3), !isLeft)
      : cut(at(0, 0), shared.slice(0, 2), at(1, 3), !isLeft),
  };
}
