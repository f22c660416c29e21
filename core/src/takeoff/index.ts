export * from './takeoff.ts';
export * from './spaces.ts';
export type { ColumnRow, Parts, RoofRow, SlabRow, StairRow } from './parts.ts';
export {
  tablesFrom,
  tablesOf,
  type ColumnKind,
  type CountedTable,
  type TableColumn,
  type TableRow,
} from './tables.ts';
