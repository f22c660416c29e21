export * from './takeoff.ts';
export * from './spaces.ts';
export type { ColumnRow, Parts, RoofRow, SlabRow, StairRow } from './parts.ts';
