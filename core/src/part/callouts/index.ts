export { readCallout, type HoleCallout, type SheetUnit } from './callout.ts';
export { readPrinted, type PrintedFigure } from './printed.ts';
export { holeNotes, type HoleNote, type WrittenText } from './note-lines.ts';
export {
  readHoleTables,
  zeroOfTable,
  type DrawnRound,
  type HoleTable,
  type TableHole,
} from './hole-table.ts';
