export * from './spaces.ts';
export * from './transform.ts';
export * from './polygons.ts';
export * from './arcs.ts';
export * from './bezier.ts';
export * from './union.ts';
export * from './groups.ts';
export * from './similarity.ts';
