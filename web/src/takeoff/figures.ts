import type { ColumnKind } from '@calque/core/takeoff';
import { formatArea, formatLength, formatNumber, UNIT_SIGNS, type LengthStyle } from '@calque/core/units';

const CUBIC_FOOT = 0.3048 ** 3;

const isImperial = ({ units }: LengthStyle) => units === 'ft' || units === 'ft-in' || units === 'in';

/** A cell of a table as the project shows such figures. */
export function cellWords(value: string | number | null, kind: ColumnKind, style: LengthStyle): string {
  if (value === null) return '';
  if (typeof value === 'string') return value;
  if (kind === 'length') return formatLength(value, style);
  if (kind === 'area') return formatArea(value * 1e6, style.units);
  if (kind === 'volume')
    return isImperial(style)
      ? `${formatNumber(value / CUBIC_FOOT, 1)} cu ft`
      : `${formatNumber(value, 2)} m³`;
  if (kind === 'angle') return `${formatNumber(value, 1)}°`;
  if (kind === 'figure') return formatNumber(value, 1);
  return formatNumber(value, 0);
}

/** The head of a column, with the unit of its lengths; areas and volumes say theirs in each cell. */
export const headWords = (head: string, kind: ColumnKind, style: LengthStyle): string => {
  const sign = kind === 'length' ? UNIT_SIGNS[style.units] : '';
  return sign ? `${head}, ${sign}` : head;
};
