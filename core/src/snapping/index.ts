export * from './items.ts';
export * from './query.ts';
export * from './trace-geometry.ts';
