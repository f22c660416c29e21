import { drawBy } from '@/drawing/take-shape';
import { GridLineFields } from './fields';
import { GRID_LINE } from './plan';
import type { GridLine } from '@calque/core/model';
import type { Face } from '../face';

export const GRID_LINE_FACE: Face<GridLine> = {
  commands: (hands) => [
    drawBy(hands, GRID_LINE, {
      words: 'Draw a grid line of the building, with its name',
      key: 'Shift+x',
      on: ['levels'],
      picture: 'grid-line',
    }),
  ],
  Fields: GridLineFields,
};
