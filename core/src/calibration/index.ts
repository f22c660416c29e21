export * from './placement.ts';
export * from './checks.ts';
export * from './printed/index.ts';
export * from './fit/index.ts';
export * from './align.ts';
export * from './usual-sizes.ts';
export * from './homography.ts';
export * from './evidence.ts';
