import {
  applyTransform,
  compose,
  fitSimilarity,
  translation,
  type CommonPoints,
  type Point,
  type Transform,
} from '../geometry/index.ts';

export interface Alignment {
  /** Takes the plane as the sheet lies to the plane as it ought to lie. */
  move: Transform;
  /** How far each pair misses after it, millimetres. */
  residuals: number[];
  rms: number;
  scale: number;
  /** Counter-clockwise. */
  radians: number;
}

export type AlignOutcome =
  { ok: true; alignment: Alignment } | { ok: false; reason: 'none' | 'points-together' };

/** Nearer than this, millimetres, picks are one point: no turn can be read off them. */
const TOGETHER = 1e-6;

/**
 * The move that lays common points onto one another: one pair shifts, two or more shift and turn, and scale where
 * that is wanted, with the least sum of squares.
 */
export function alignByPoints(pairs: readonly CommonPoints[], scaled: boolean): AlignOutcome {
  if (pairs.length === 0) return { ok: false, reason: 'none' };
  const [first] = pairs;
  let move: Transform = translation(first.to[0] - first.from[0], first.to[1] - first.from[1]);
  if (pairs.length > 1) {
    const apart = (side: 'from' | 'to') =>
      Math.max(...pairs.map((p) => Math.hypot(p[side][0] - first[side][0], p[side][1] - first[side][1])));
    const fit =
      apart('from') > TOGETHER && apart('to') > TOGETHER
        ? fitSimilarity(
            pairs.map((p) => ({ ...p, weight: 1 })),
            scaled,
          )
        : null;
    if (!fit) return { ok: false, reason: 'points-together' };
    move = fit.transform;
  }
  const residuals = pairs.map(({ from, to }) => {
    const [x, y] = applyTransform(move, from);
    return Math.hypot(x - to[0], y - to[1]);
  });
  return {
    ok: true,
    alignment: {
      move,
      residuals,
      rms: Math.sqrt(residuals.reduce((s, r) => s + r * r, 0) / residuals.length),
      scale: Math.hypot(move[0], move[1]),
      radians: Math.atan2(move[1], move[0]),
    },
  };
}

/** A move without its scaling: turned and shifted as it says, about a point that it then takes to the same place. */
export function withoutScaling(move: Transform, about: Point): Transform {
  const scale = Math.hypot(move[0], move[1]);
  const turn: Transform = [move[0] / scale, move[1] / scale, move[2] / scale, move[3] / scale, 0, 0];
  const target = applyTransform(move, about),
    now = applyTransform(turn, about);
  return compose(translation(target[0] - now[0], target[1] - now[1]), turn);
}

/** Stretches a placement along the plane's own axes about a point that stays, as fine adjustment does. */
export const stretchPlacement = (placement: Transform, x: number, y: number, about: Point): Transform =>
  compose([x, 0, 0, y, about[0] * (1 - x), about[1] * (1 - y)], placement);
