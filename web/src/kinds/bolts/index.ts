import { drawBy } from '@/drawing/take-shape';
import type { Bolts } from '@calque/core/model';
import type { Face } from '../face';
import { BoltsFields } from './fields';
import { BOLTS_PLAN } from './plan';

export const BOLTS_FACE: Face<Bolts> = {
  commands: (hands) => [
    drawBy(hands, BOLTS_PLAN, {
      words: 'Put bolts through a plate or a member, in rows or on a circle: their length follows',
      short: 'Bolts',
      key: ', x',
      on: ['frame'],
      picture: 'bolts',
      also: 'fasteners screws pattern rows circle pitch gauge drill holes',
    }),
  ],
  Fields: BoltsFields,
};
