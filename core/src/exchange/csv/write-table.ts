import type { CountedTable } from '../../takeoff/index.ts';
import type { UnitSystem } from '../../units/index.ts';
import { csvText } from './csv-text.ts';
import { columnHead, columnValue, tableUnits } from './units.ts';

/** Any table of the takeoff as CSV, full figures in the project's unit; feet and inches as decimal feet. */
export function writeTableCsv({ columns, rows }: CountedTable, units: UnitSystem): string {
  const own = tableUnits(units);
  return csvText([
    columns.map((c) => columnHead(c, own)),
    ...rows.map((r) => r.cells.map((value, i) => columnValue(value, columns[i], own) ?? '')),
  ]);
}
