export { placedMembers, type PlacedMember } from './placed.ts';
export { markingChanges, marksOf } from './marks.ts';
export { frameDoubts, type FrameDoubts } from './doubts.ts';
