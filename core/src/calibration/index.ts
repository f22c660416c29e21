export * from './placement.ts';
export * from './checks.ts';
