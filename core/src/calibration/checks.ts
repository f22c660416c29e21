import { meanScale, type SheetPoint, type Transform } from '../geometry/index.ts';
import { measuredLength } from './placement.ts';

export interface CheckResult { measured: number; /** measured - printed, millimetres */ difference: number; percent: number; agrees: boolean }

/**
 * Printed figures are rounded to a whole unit and picks are good to a line's width: half a per cent,
 * but at least two millimetres, is agreement.
 */
const AGREE_SHARE = 0.005;
const AGREE_MM = 2;

/** How far a length may be from what is printed and still agree, millimetres. */
export const agreementTolerance = (printed: number): number => Math.max(AGREE_MM, AGREE_SHARE * printed);

/** Ends that recognition found agree within this many of their own standard deviations (99 %). */
const SURE = 2.576;

/** `sigma`: how well the ends are known where that is worse than a line's width, sheet points. */
export function evaluateCheck(planeFromSheet: Transform, from: SheetPoint, to: SheetPoint, printed: number, sigma?: readonly [number, number]): CheckResult {
  const measured = measuredLength(planeFromSheet, from, to);
  const difference = measured - printed;
  return { measured, difference, percent: (difference / printed) * 100, agrees: Math.abs(difference) <= Math.max(agreementTolerance(printed), sigma ? SURE * Math.hypot(...sigma) * meanScale(planeFromSheet) : 0) };
}
