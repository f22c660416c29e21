import writeExcelFile, { type Cell } from 'write-excel-file/universal';
import type { CountedTable } from '../../takeoff/index.ts';
import type { UnitSystem } from '../../units/index.ts';
import { columnHead, columnValue, tableUnits } from '../csv/units.ts';

/** Figures show so many decimals; the cells hold them in full. */
const FORMATS = {
  text: undefined,
  count: '0',
  length: '0.0##',
  area: '0.00',
  volume: '0.000',
  angle: '0.0#',
  figure: '0.0##',
} as const;
/** Longer texts are cut by spreadsheets. */
const LONGEST = 32000;

/**
 * Tables, as of the takeoff, as one workbook (Office Open XML), a sheet for each that holds something; figures as numbers in the project's
 * unit, feet and inches as decimal feet. Null where no table holds anything.
 */
export async function writeXlsx(
  tables: readonly Pick<CountedTable, 'name' | 'columns' | 'rows'>[],
  units: UnitSystem,
): Promise<Uint8Array<ArrayBuffer> | null> {
  const own = tableUnits(units),
    full = tables.filter((t) => t.rows.length > 0);
  if (full.length === 0) return null;
  const sheets = full.map(({ name, columns, rows }) => ({
    sheet: name,
    stickyRowsCount: 1,
    columns: columns.map((c, i) => ({
      width: Math.min(
        60,
        Math.max(
          columnHead(c, own).length,
          ...rows.map((r) => String(r.cells[i] ?? '').slice(0, 60).length),
        ) + 2,
      ),
    })),
    data: [
      columns.map((c): Cell => ({ value: columnHead(c, own), fontWeight: 'bold' })),
      ...rows.map((r) =>
        r.cells.map((value, i): Cell => {
          const cell = columnValue(value, columns[i], own);
          if (cell === null || cell === '') return null;
          return typeof cell === 'number'
            ? { value: cell, type: Number, format: FORMATS[columns[i].kind] }
            : { value: cell.slice(0, LONGEST), type: String };
        }),
      ),
    ],
  }));
  const blob = await writeExcelFile(sheets).toBlob();
  return new Uint8Array(await blob.arrayBuffer());
}
