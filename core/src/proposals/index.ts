export * from './types.ts';
export { proposalsOn } from './propose.ts';
export { proposedWalls } from './walls.ts';
