import { meanScale, type Transform } from '../geometry/index.ts';
import { sigmaOf, type KnownLength } from './fit/index.ts';
import { measuredLength } from './placement.ts';

export interface CheckResult {
  measured: number;
  /** measured - printed, millimetres */ difference: number;
  percent: number;
  /** How far it may be off and still agree, millimetres. */ allowed: number;
  agrees: boolean;
}

/** What is farther off than 99 of 100 are by chance alone differs. */
const SURE = 2.576;
const STATED = 1.96;

/**
 * A known length held against where its sheet lies. It agrees within what its two picks, the rounding of its figure and the sheet's own
 * stated error allow together, and not within a share of its length. `statedShare`: by how much of a length the sheet says that it may be off, 95 %.
 */
export function evaluateCheck(planeFromSheet: Transform, known: KnownLength, statedShare = 0): CheckResult {
  const measured = measuredLength(planeFromSheet, known.from, known.to);
  const difference = measured - known.millimetres;
  const allowed =
    SURE * Math.hypot(sigmaOf(known, meanScale(planeFromSheet)), (statedShare / STATED) * measured);
  return {
    measured,
    difference,
    percent: (difference / known.millimetres) * 100,
    allowed,
    agrees: Math.abs(difference) <= allowed,
  };
}
