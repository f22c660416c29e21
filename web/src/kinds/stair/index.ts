import { needsStorey } from '@/commands/command';
import { drawBy } from '@/drawing/take-shape';
import type { Stair } from '@calque/core/model';
import type { Face } from '../face';
import { StairFields } from './fields';
import { STAIR_PLAN } from './plan';

export const STAIR_FACE: Face<Stair> = {
  commands: (hands) => [
    {
      ...drawBy(hands, STAIR_PLAN, {
        words: 'Put a stair by its first and its last riser; its steps are counted on the plan',
        short: 'Stair',
        key: ', t',
        on: ['building'],
        picture: 'stair',
        also: 'steps flight dog-leg landing',
      }),
      ...needsStorey(hands, 'Stairs stand'),
    },
  ],
  Fields: StairFields,
};
