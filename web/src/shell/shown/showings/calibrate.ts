import type { Pair } from '@calque/core/model';
import { click, key, point, run, say, type, call, type Showing } from '../acts';
import { laidPlan, slantedPlan } from '../plan-sheet';
import { placeStraight, stateScale } from '../outcomes';
import { line, SHEET, OFF, UNSCALED } from './given';

const k = OFF;

/** What brings a sheet to scale and place. */
export const CALIBRATE: Record<string, Showing> = {
  calibrate: {
    before: UNSCALED,
    acts: [
      say('Pick the ends of a dimension that you know; the longest gives the best scale.'),
      run('calibrate'),
      click(600 * k, 4600 * k),
      click(6600 * k, 4600 * k),
      type('6000'),
      say('The sheet is to scale, and stays where it was.'),
    ],
  },
  known: {
    before: SHEET,
    acts: [
      say('Another dimension that is known, held against the sheet: does it agree?'),
      run('known'),
      click(600, 600),
      click(600, 4600),
      type('4000'),
    ],
  },
  align: {
    before: [
      laidPlan(1, { placement: moved(laidPlan().placement, 400, -300) }),
      line('a', [600, 600], [6600, 600]),
    ],
    acts: [
      say('A point of the sheet onto a point of the drawing; two turn it, too. Enter takes it.'),
      run('align'),
      click(1000, 300),
      click(600, 600),
      key('Enter'),
    ],
  },
  adjust: {
    before: SHEET,
    acts: [
      say('By the arrows, step by step, while the checks tell how well it fits.'),
      run('adjust'),
      ...Array.from({ length: 6 }, () => key('ArrowRight')),
      type('0', '150'),
    ],
  },
  level: {
    before: [laidPlan(1, { placement: turned(laidPlan().placement, 0.12) })],
    acts: [say('Click an edge that ought to be level.'), run('level'), click(...on(0.12, 3400, 4600))],
    sees: [-400, 300, 6900, 5600],
  },
  origin: {
    before: SHEET,
    acts: [say('A corner of the plan onto the origin.'), run('origin'), click(600, 600)],
    sees: [-900, -700, 6900, 5200],
  },
  straighten: {
    before: [slantedPlan()],
    acts: [
      say('A photo at a slant: pick the four corners of something square.'),
      run('straighten'),
      click(600, 600),
      click(6600, 600),
      click(5880, 4232),
      click(1320, 4232),
      type('6000', '4000'),
      call(placeStraight),
      say('It is drawn anew, square and to scale.'),
    ],
  },
  'quarter-left': {
    before: SHEET,
    acts: [say('A scan that lies on its side.'), run('quarter-left')],
    sees: [-300, -1600, 7500, 7000],
  },
  'quarter-right': {
    before: SHEET,
    acts: [say('A scan that lies on its side.'), run('quarter-right')],
    sees: [-300, -1600, 7500, 7000],
  },
  'scale-sheet': {
    before: UNSCALED,
    acts: [
      say('The scale that is printed in the title block: type 1:100 in the card.'),
      point(6000, 600),
      call(stateScale),
      say('Hold a known dimension against it: paper may be stretched.'),
      point(3000, 2500),
    ],
  },
};

function moved(t: readonly number[], x: number, y: number): [number, number, number, number, number, number] {
  return [t[0], t[1], t[2], t[3], t[4] + x, t[5] + y];
}
function turned(t: readonly number[], radians: number): [number, number, number, number, number, number] {
  const c = Math.cos(radians) * t[0],
    s = Math.sin(radians) * t[0];
  return [c, s, -s, c, t[4], t[5]];
}
/** Where a place of the plan lies when it has been turned. */
function on(radians: number, x: number, y: number): Pair {
  return [x * Math.cos(radians) - y * Math.sin(radians), x * Math.sin(radians) + y * Math.cos(radians)];
}
