export * from './read-printed.ts';
export { lengthAt, type ViewScale } from './fit-view.ts';
export type { ChainCheck } from './chains.ts';
