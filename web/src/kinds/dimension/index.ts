import { drawBy } from '@/drawing/take-shape';
import { DimensionFields } from './fields';
import { DIMENSION } from './plan';
import type { Dimension } from '@calque/core/model';
import type { Face } from '../face';

export const DIMENSION_FACE: Face<Dimension> = {
  commands: (hands) => [
    drawBy(hands, DIMENSION, {
      words: 'Draw a dimension: along points, level or upright, in a row, of a radius or an angle',
      key: 'Shift+d',
      picture: 'dimension',
    }),
  ],
  Fields: DimensionFields,
};
