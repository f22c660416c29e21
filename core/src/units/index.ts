export * from './length.ts';
export * from './format.ts';
export * from './scale.ts';
export * from './angle.ts';
export * from './figures.ts';
export * from './level.ts';
