import type { ColumnKind, TableColumn } from '../../takeoff/index.ts';
import { MM_PER, type UnitSystem } from '../../units/index.ts';

/** How lengths and areas are written for spreadsheets: full figures in the project's unit, feet and inches as decimal feet. */
export interface CsvUnits {
  unit: Exclude<UnitSystem, 'ft-in'>;
  areaUnit: 'm2' | 'sq ft';
  length(mm: number): string;
  /** Of square millimetres. */
  area(squareMillimetres: number): string;
}

const figure = (n: number) => String(Math.round(n * 1e6) / 1e6 + 0);

export function csvUnits(units: UnitSystem): CsvUnits {
  const unit = units === 'ft-in' ? 'ft' : units,
    imperial = unit === 'ft' || unit === 'in';
  return {
    unit,
    areaUnit: imperial ? 'sq ft' : 'm2',
    length: (mm) => figure(mm / MM_PER[unit]),
    area: (mm2) => figure(mm2 / (imperial ? MM_PER.ft ** 2 : 1e6)),
  };
}

/** What figures of tables are multiplied by, and how their units are written. */
export interface TableUnits {
  signs: Readonly<Record<ColumnKind, string>>;
  factors: Readonly<Record<ColumnKind, number>>;
}

export function tableUnits(units: UnitSystem): TableUnits {
  const { unit, areaUnit } = csvUnits(units),
    imperial = areaUnit === 'sq ft',
    foot = MM_PER.ft / 1000;
  return {
    signs: {
      text: '',
      count: '',
      length: unit,
      area: areaUnit,
      volume: imperial ? 'cu ft' : 'm3',
      angle: 'degrees',
      figure: '',
    },
    factors: {
      text: 1,
      count: 1,
      length: 1 / MM_PER[unit],
      area: imperial ? 1 / foot ** 2 : 1,
      volume: imperial ? 1 / foot ** 3 : 1,
      angle: 1,
      figure: 1,
    },
  };
}

/** The head of a column with its unit: "area (m2)". */
export const columnHead = ({ head, kind }: TableColumn, { signs }: TableUnits): string =>
  signs[kind] === '' ? head : `${head} (${signs[kind]})`;

/** A cell in the unit of its column: figures to a millionth; null for none. */
export function columnValue(
  value: string | number | null,
  { kind }: TableColumn,
  { factors }: TableUnits,
): string | number | null {
  return typeof value === 'number' ? Math.round(value * factors[kind] * 1e6) / 1e6 + 0 : value;
}
