import { MM_PER, type UnitSystem } from './length.ts';

const THIN_SPACE = '\u2009';
const MINUS = '\u2212';

/**
 * How lengths are shown: for decimal systems `precision` is the number of decimals (0 to 4);
 * for feet and inches the denominator of the smallest fraction shown (1, 2, 4 … 64).
 */
export interface LengthStyle {
  units: UnitSystem;
  precision: number;
}

export const DEFAULT_PRECISION: Record<UnitSystem, number> = {
  mm: 0,
  cm: 1,
  m: 3,
  ft: 2,
  'ft-in': 16,
  in: 2,
};
export const UNIT_NAMES: Record<UnitSystem, string> = {
  mm: 'millimetres',
  cm: 'centimetres',
  m: 'metres',
  ft: 'decimal feet',
  'ft-in': 'feet and inches',
  in: 'inches',
};
export const UNIT_SIGNS: Record<UnitSystem, string> = {
  mm: 'mm',
  cm: 'cm',
  m: 'm',
  ft: 'ft',
  'ft-in': '',
  in: 'in',
};

/** Groups digits by thin spaces: 24 600. Four-digit figures are grouped too, as printed tables do. */
export function groupDigits(digits: string): string {
  const [whole, decimals] = digits.split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, THIN_SPACE);
  return decimals === undefined ? grouped : `${grouped}.${decimals}`;
}

/** A number with its sign as a true minus and its digits grouped; never "-0". */
export function formatNumber(value: number, decimals: number): string {
  const digits = Math.abs(value).toFixed(decimals);
  const negative = value < 0 && Number(digits) !== 0;
  return (negative ? MINUS : '') + groupDigits(digits);
}

/** A length in millimetres as the project shows it, without the unit's sign ("24 600", 11′-4 1/2″). */
export function formatLength(mm: number, style: LengthStyle): string {
  if (style.units === 'ft-in') return formatFeetInches(mm, style.precision);
  return formatNumber(mm / MM_PER[style.units], style.precision);
}

/** As formatLength, with the unit's sign behind it. */
export function formatLengthWithUnit(mm: number, style: LengthStyle): string {
  const sign = UNIT_SIGNS[style.units];
  return sign ? `${formatLength(mm, style)}${THIN_SPACE}${sign}` : formatLength(mm, style);
}

/** What is left of rounding counts as nothing, of the last decimal that is shown. */
const EXPRESSED = 1e-3;
/** As many decimals as a length is ever said with by its own unit, and the finest fraction of an inch. */
const FINEST: Record<UnitSystem, number> = { mm: 3, cm: 4, m: 4, ft: 4, 'ft-in': 64, in: 4 };

/**
 * The style in which a length is said as it is and not rounded: the project's own where that says it, else with as many decimals or as fine a fraction as
 * it takes, three decimals of a millimetre at most. What no fraction of an inch says is said in decimal inches.
 */
export function exactStyle(mm: number, { units, precision }: LengthStyle): LengthStyle {
  const says = (parts: number) => {
    const scaled = (mm / MM_PER[units === 'ft-in' ? 'in' : units]) * parts;
    return Math.abs(scaled - Math.round(scaled)) <= EXPRESSED * Math.max(1, parts / 1000);
  };
  if (units === 'ft-in') {
    for (let p = precision; p <= FINEST[units]; p *= 2) if (says(p)) return { units, precision: p };
    return exactStyle(mm, { units: 'in', precision: 3 });
  }
  for (let p = precision; p < FINEST[units]; p++) if (says(10 ** p)) return { units, precision: p };
  return { units, precision: Math.max(precision, FINEST[units]) };
}

function formatFeetInches(mm: number, denominator: number): string {
  const parts = Math.round((Math.abs(mm) / MM_PER.in) * denominator);
  const perFoot = 12 * denominator;
  const feet = Math.floor(parts / perFoot);
  const inches = Math.floor((parts % perFoot) / denominator);
  const rest = parts % denominator;
  const divisor = gcd(rest, denominator);
  const fraction = rest === 0 ? '' : ` ${rest / divisor}/${denominator / divisor}`;
  return `${mm < 0 && parts > 0 ? MINUS : ''}${groupDigits(String(feet))}\u2032-${inches}${fraction}\u2033`;
}

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** An area in square millimetres: square feet for imperial projects, square metres otherwise. */
export function formatArea(mm2: number, units: UnitSystem): string {
  const imperial = units === 'ft' || units === 'ft-in' || units === 'in';
  return imperial
    ? `${formatNumber(mm2 / MM_PER.ft ** 2, 1)}${THIN_SPACE}sq ft`
    : `${formatNumber(mm2 / 1e6, 2)}${THIN_SPACE}m²`;
}

/**
 * A length as it can be typed again without loss: plain digits, up to six decimals, with its unit.
 * parseLength reads it back within a billionth.
 */
export function typeableLength(mm: number, units: UnitSystem): string {
  const base = units === 'ft-in' ? 'in' : units;
  const text = (mm / MM_PER[base]).toFixed(6).replace(/\.?0+$/, '');
  return units === 'ft-in' ? `${text} in` : text;
}
