export { frameView, frameViews } from './frame.ts';
export { MOST_PIECES, pieceViews } from './piece.ts';
export { plateViews } from './plates.ts';

import type { Model } from '../../model/index.ts';
import type { View } from '../from-model.ts';
import { frameViews } from './frame.ts';
import { pieceViews } from './piece.ts';
import { plateViews } from './plates.ts';

/** All that a shop is given of a frame on paper: its frames, its pieces, its plates, each at a scale of its own. */
export const shopViews = (model: Model): View[] => [
  ...frameViews(model),
  ...pieceViews(model),
  ...plateViews(model),
];
