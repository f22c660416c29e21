import { drawBy } from '@/drawing/take-shape';
import { ARC, CIRCLE } from './plans';
import type { TracedArc } from '@calque/core/model';
import type { Face } from '../face';

export const ARC_FACE: Face<TracedArc> = {
  commands: (hands) => [
    drawBy(hands, CIRCLE, {
      words: 'Draw a circle by centre, diameter or three points',
      key: 'Shift+c',
      picture: 'circle',
    }),
    drawBy(hands, ARC, {
      words: 'Draw an arc through three points, by its radius or about a centre',
      key: 'Shift+a',
      picture: 'arc',
    }),
  ],
  Fields: null,
};
