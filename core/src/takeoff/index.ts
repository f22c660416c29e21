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
export {
  countFrame,
  STOCK_LENGTHS,
  SAW,
  type CutRow,
  type FrameCount,
  type MemberRow,
  type StockRow,
} from './members.ts';
export { markedPlates, type AssemblyRow, type BoltRow, type PlateRow } from './steel.ts';
export { firstFit, nest, type Bar, type Nested } from './nesting.ts';
