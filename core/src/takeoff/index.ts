export * from './takeoff.ts';
export * from './spaces.ts';
