export * from './change.ts';
export * from './apply.ts';
