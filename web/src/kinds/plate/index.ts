import { inStage, needsChosen } from '@/commands/command';
import { drawBy } from '@/drawing/take-shape';
import type { Plate } from '@calque/core/model';
import type { Face } from '../face';
import { PlateFields } from './fields';
import { PLATE_HOLE_PLAN, PLATE_PLAN } from './plan';
import { makePlates } from './plates-of';

export const PLATE_FACE: Face<Plate> = {
  commands: (hands) => [
    drawBy(hands, PLATE_PLAN, {
      words: 'Outline a plate of a frame: by its corners, rectangular, or round',
      short: 'Plate',
      key: ', p',
      on: ['frame'],
      picture: 'plate',
      also: 'gusset flange stiffener cleat sheet metal round disc',
    }),
    drawBy(hands, PLATE_HOLE_PLAN, {
      words: 'Cut a round hole or a slot into a plate',
      short: 'Hole or slot',
      on: ['frame'],
      picture: 'plate-hole',
      also: 'drill slotted opening plate',
    }),
    {
      id: 'make-plates',
      words: 'Make plates of the circles, closed outlines and areas that are selected',
      short: 'To plates',
      on: ['change'],
      picture: 'make-plates',
      rank: 7,
      also: 'convert outline to plate',
      group: 'Edit',
      ...needsChosen(hands),
      run: inStage(hands, 'trace', () => makePlates(hands.table)),
    },
  ],
  Fields: PlateFields,
};
