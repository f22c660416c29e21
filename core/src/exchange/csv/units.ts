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
