import { drawBy } from '@/drawing/take-shape';
import { CURVE } from './plan';
import type { Spline } from '@calque/core/model';
import type { Face } from '../face';

export const SPLINE_FACE: Face<Spline> = {
  commands: (hands) => [
    drawBy(hands, CURVE, {
      words: 'Draw a smooth curve (spline) through points',
      key: 'Shift+s',
      picture: 'curve',
    }),
  ],
  Fields: null,
};
