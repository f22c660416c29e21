export { readCallout, type HoleCallout, type SheetUnit } from './callout.ts';
export { readPrinted, type PrintedFigure } from './printed.ts';
