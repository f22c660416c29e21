export * from './wall-geometry.ts';
export * from './joins.ts';
export * from './schedule.ts';
export * from './traced-length.ts';
