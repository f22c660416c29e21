export * from './wall-geometry.ts';
export * from './joins.ts';
export * from './schedule.ts';
export * from './traced-length.ts';
export * from './opened.ts';
export * from './opening-lines.ts';
export * from './read-opening.ts';
export * from './gap-near.ts';
