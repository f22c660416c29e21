export * from './read-printed.ts';
export { readFigure, BARE_UNITS, type BareUnit, type Figure } from './figures.ts';
export { lengthAt, type ViewScale } from './fit-view.ts';
export type { ChainCheck } from './chains.ts';
