export * from './types.ts';
export { proposalsOn, type ProposeOptions } from './propose.ts';
export { proposedWalls } from './walls.ts';
