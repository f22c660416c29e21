export { placedMembers, type PlacedMember } from './placed.ts';
export { markingChanges, marksOf } from './marks.ts';
export * from './joints/index.ts';
export { memberMet, membersUnder } from './meeting.ts';
export { asCut, jointLines, jointPieces, type JointLines } from './shown.ts';
export { assemblyKey, cutFigures, pieceKey, plateKey } from './pieces.ts';
export { atLevel, heightAt, keepsLevel, levelsOfMembers, type LevelNow } from './levels.ts';
export { frameDoubts, type FrameDoubts } from './doubts.ts';
export { frameAlong, gridsBehind, MOST_COPIES, spacings, type Along, type TurnedAbout } from './along.ts';
