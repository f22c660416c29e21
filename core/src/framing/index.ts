export { placedMembers, type PlacedMember } from './placed.ts';
export { markingChanges, marksOf } from './marks.ts';
export * from './joints/index.ts';
export { assemblyKey, pieceKey, plateKey } from './pieces.ts';
export { frameDoubts, type FrameDoubts } from './doubts.ts';
