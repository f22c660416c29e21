export type { OwnLines, SeenChange, SeenIssue } from './types.ts';
export { changesSeen } from './changes-seen.ts';
export { changeMade, changesMade, type MadeOf } from './changes-made.ts';
export { changesWords, changeWords } from './change-words.ts';
