import { drawBy } from '@/drawing/take-shape';
import type { SymbolMark } from '@calque/core/model';
import type { Face } from '../face';
import { SymbolFields } from './fields';
import { planOf } from './plan';

const [NORTH, LEVEL, SECTION] = (['north', 'level', 'section'] as const).map(planOf);

export const SYMBOL_FACE: Face<SymbolMark> = {
  commands: (hands) => [
    drawBy(hands, NORTH, {
      words: 'Put a north arrow',
      key: ', n',
      short: 'North',
      picture: 'north',
      also: 'symbol mark orientation compass',
    }),
    drawBy(hands, LEVEL, {
      key: ', l',
      short: 'Level',
      picture: 'level-mark',
      words: 'Put a level mark, with the height at which it stands',
      also: 'symbol spot height elevation mark',
    }),
    drawBy(hands, SECTION, {
      key: ', s',
      short: 'Section',
      picture: 'section-mark',
      words: 'Put a section mark, with its name and the way it looks',
      also: 'symbol cut callout',
    }),
  ],
  Fields: SymbolFields,
};
