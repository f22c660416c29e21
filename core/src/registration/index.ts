export * from './types.ts';
export * from './register.ts';
export * from './compare.ts';
