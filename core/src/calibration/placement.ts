import {
  applyTransform,
  compose,
  invertTransform,
  MM_PER_POINT,
  meanScale,
  rotationAbout,
  scalingAbout,
  translation,
  turnOf,
  type Point,
  type SheetPoint,
  type Transform,
} from '../geometry/index.ts';

/** True millimetres per millimetre of paper: 100 for 1:100. */
export const scaleFactorOf = (planeFromSheet: Transform): number => meanScale(planeFromSheet) / MM_PER_POINT;

/** Lays a sheet at a scale, the given sheet point at the given plane point, unturned. */
export function placeAtScale(factor: number, anchor: SheetPoint, at: Point): Transform {
  const s = factor * MM_PER_POINT;
  return [s, 0, 0, s, at[0] - s * anchor[0], at[1] - s * anchor[1]];
}

/** Length between two sheet points as the placement has it, millimetres. */
export function measuredLength(planeFromSheet: Transform, from: SheetPoint, to: SheetPoint): number {
  const p = applyTransform(planeFromSheet, from),
    q = applyTransform(planeFromSheet, to);
  return Math.hypot(q[0] - p[0], q[1] - p[1]);
}

export type CalibrationResult =
  | { ok: true; placement: Transform; oldLength: number; newLength: number; factor: number; scale: number }
  | { ok: false; reason: 'points-together' | 'length-not-positive' };

/** Picks nearer than this on the paper (sheet points) are one point: no length can be read off them. */
const TOGETHER = 0.05;

/** Scales a sheet about the first point so that the distance to the second becomes the true length (millimetres). */
export function calibrateByLength(
  planeFromSheet: Transform,
  from: SheetPoint,
  to: SheetPoint,
  trueLength: number,
): CalibrationResult {
  if (Math.hypot(to[0] - from[0], to[1] - from[1]) < TOGETHER)
    return { ok: false, reason: 'points-together' };
  if (!(trueLength > 0) || !Number.isFinite(trueLength)) return { ok: false, reason: 'length-not-positive' };
  const oldLength = measuredLength(planeFromSheet, from, to);
  const factor = trueLength / oldLength;
  const placement = compose(scalingAbout(factor, applyTransform(planeFromSheet, from)), planeFromSheet);
  return {
    ok: true,
    placement,
    oldLength,
    newLength: measuredLength(placement, from, to),
    factor,
    scale: scaleFactorOf(placement),
  };
}

/** Turns a placed sheet by an angle (radians, counter-clockwise) about a plane point. */
export const turnPlacement = (planeFromSheet: Transform, radians: number, about: Point): Transform =>
  compose(rotationAbout(radians, about), planeFromSheet);

/** The turn that makes an edge horizontal or vertical, whichever it is nearer to, or the one asked for. */
export function levellingTurn(
  planeFromSheet: Transform,
  from: SheetPoint,
  to: SheetPoint,
  wanted: 'nearest' | 'horizontal' | 'vertical',
): number {
  const p = applyTransform(planeFromSheet, from),
    q = applyTransform(planeFromSheet, to);
  const angle = Math.atan2(q[1] - p[1], q[0] - p[0]);
  const quarter = Math.PI / 2;
  const towards = (offset: number) => {
    const turn = -(angle - offset) % Math.PI;
    return turn > quarter ? turn - Math.PI : turn <= -quarter ? turn + Math.PI : turn;
  };
  const level = towards(0),
    upright = towards(quarter);
  if (wanted === 'horizontal') return level;
  if (wanted === 'vertical') return upright;
  return Math.abs(level) <= Math.abs(upright) ? level : upright;
}

/** Moves a placed sheet so that one of its points comes to lie at a plane point. */
export function movePointTo(planeFromSheet: Transform, point: SheetPoint, target: Point): Transform {
  const [x, y] = applyTransform(planeFromSheet, point);
  return compose(translation(target[0] - x, target[1] - y), planeFromSheet);
}

/** The plane map that takes what lay right under the old placement along to the new one. */
export const carryAlong = (before: Transform, after: Transform): Transform =>
  compose(after, invertTransform(before));

/** Turn of a placement against the paper, radians. */
export const placementTurn = (planeFromSheet: Transform): number => turnOf(planeFromSheet);
