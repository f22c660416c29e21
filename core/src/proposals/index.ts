export * from './types.ts';
export { proposalsOn, type ProposeOptions } from './propose.ts';
export type { Told } from './seen-walls.ts';
export { mayBeBuilt } from './strokes.ts';
export { partOfSheet, type SheetPart } from './sheet-part.ts';
export { proposedWalls } from './walls.ts';
export { isSectionName } from './members.ts';
export { chordedArcs } from './chorded-arcs.ts';
export { columnTaken, gridLineTaken, roomTaken, wallTaken, type Standing } from './take.ts';
