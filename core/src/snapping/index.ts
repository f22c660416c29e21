export * from './items.ts';
export * from './sheet-items.ts';
export * from './query.ts';
export * from './live-items.ts';
export * from './snappers.ts';
export * from './guides.ts';
export * from './grid.ts';
