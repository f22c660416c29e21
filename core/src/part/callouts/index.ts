export { readCallout, type HoleCallout, type SheetUnit } from './callout.ts';
