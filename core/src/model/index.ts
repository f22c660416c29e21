export * from './entities.ts';
export * from './model.ts';
export * from './moved.ts';
export * from './chains.ts';
export * from './changes/index.ts';
export * from './history.ts';
export * from './schema.ts';
