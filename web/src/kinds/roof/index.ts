import { inStage, needsStorey } from '@/commands/command';
import { drawBy } from '@/drawing/take-shape';
import type { Roof } from '@calque/core/model';
import type { Face } from '../face';
import { RoofFields } from './fields';
import { ROOF_PLAN, roofOverWalls } from './plan';

export const ROOF_FACE: Face<Roof> = {
  commands: (hands) => [
    {
      ...drawBy(hands, ROOF_PLAN, {
        words: 'Outline a roof: hipped, with gables, lean-to or flat',
        short: 'Roof',
        key: ', r',
        on: ['building'],
        picture: 'roof',
        also: 'hip gable pitched lean-to',
      }),
      ...needsStorey(hands, 'Roofs lie'),
    },
    {
      id: 'roof-walls',
      words: 'Make a roof over the outside faces of the walls of this storey; they follow it',
      short: 'Roof of walls',
      on: ['building'],
      picture: 'roof-walls',
      also: 'roof over walls',
      group: 'Tools',
      ...needsStorey(hands, 'Roofs lie'),
      run: inStage(hands, 'trace', () => roofOverWalls(hands.table)),
    },
  ],
  Fields: RoofFields,
};
