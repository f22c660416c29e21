export { proposedWalls, type ProposedWall, type ProposedWalls } from './walls.ts';
