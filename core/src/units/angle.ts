import { parseNumber } from './length.ts';

export const RADIANS_PER_DEGREE = Math.PI / 180;

/** A typed angle in degrees ("24", "24.5°", "-90 deg") as radians, or null. */
export function parseAngle(input: string): number | null {
  const degrees = parseNumber(input.replace(/[−–]/g, '-').replace(/\s*(°|deg|degrees?)\.?\s*$/i, ''));
  return degrees === null ? null : degrees * RADIANS_PER_DEGREE;
}
