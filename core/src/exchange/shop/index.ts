export { frameView, frameViews } from './frame.ts';
export { pieceViews } from './piece.ts';
export { plateViews } from './plates.ts';
export { partPage, type DrawnPart } from './part.ts';

import type { Model } from '../../model/index.ts';
import type { View } from '../from-model.ts';
import { ShopSketch, SHOP_LAYERS } from './dims.ts';
import { frameViews } from './frame.ts';
import { pieceViews } from './piece.ts';
import { plateViews } from './plates.ts';

/** All that a shop is given of a frame on paper: its frames, its pieces, its plates, each at a scale of its own. */
export function shopViews(model: Model): View[] {
  const views = [frameViews, pieceViews, plateViews].map((of) => of(model, MOST_PAGES + 1)),
    all = views.flatMap((list) => list.slice(0, MOST_PAGES));
  if (views.every((list) => list.length <= MOST_PAGES)) return all;
  // What is not there is said where it would be looked for.
  const sketch = new ShopSketch(40, { units: 'mm', precision: 0 });
  sketch.words(`More drawings were left out: at most ${MOST_PAGES} frames, pieces and plates each.`, [0, 0]);
  return [
    ...all,
    { name: 'Left out', drawing: { layers: [...SHOP_LAYERS], shapes: sketch.shapes }, scale: 10 },
  ];
}
/** More drawings of one sort than are written at once. */
const MOST_PAGES = 400;
