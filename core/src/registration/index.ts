export * from './types.ts';
export * from './register.ts';
export * from './compare.ts';
export { fitSimilarity, type PointPair } from './similarity.ts';
