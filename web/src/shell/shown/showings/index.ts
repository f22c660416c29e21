import type { Showing } from '../acts';
import { BUILDING } from './building';
import { CALIBRATE } from './calibrate';
import { CHANGE } from './change';
import { CHECK } from './check';
import { DRAWING } from './drawing';
import { FRAMES } from './frames';
import { LEVELS } from './levels';

/** How each instrument is shown, by its command. */
export const SHOWINGS: Readonly<Record<string, Showing>> = {
  ...BUILDING,
  ...DRAWING,
  ...FRAMES,
  ...LEVELS,
  ...CHANGE,
  ...CALIBRATE,
  ...CHECK,
};
