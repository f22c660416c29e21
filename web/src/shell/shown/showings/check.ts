import { click, key, point, run, say, type Showing } from '../acts';
import { ROOM_WALLS, SHEET } from './given';

/** What is measured. */
export const CHECK: Record<string, Showing> = {
  measure: {
    before: SHEET,
    acts: [say('From a point to another.'), run('measure'), click(800, 800), click(6400, 4400)],
  },
  grade: {
    before: [...SHEET, ...ROOM_WALLS],
    acts: [
      say('Every edge that was traced, and how far it lies from the ink.'),
      run('grade'),
      point(700, 2500),
      say('Point at an edge to read its distance; the panel lists what strays and what is missing.'),
      point(3500, 4604),
    ],
  },
  'measure-angle': {
    before: SHEET,
    acts: [
      say('A corner, and a point on each leg.'),
      run('measure-angle'),
      click(800, 800),
      click(6400, 800),
      click(6400, 4400),
    ],
  },
  'measure-radius': {
    before: SHEET,
    acts: [say('Click an arc of the plan.'), run('measure-radius'), click(2136, 1436)],
  },
  'measure-area': {
    before: SHEET,
    acts: [
      say('Corner after corner; Enter closes it.'),
      run('measure-area'),
      click(800, 800),
      click(6400, 800),
      click(6400, 4400),
      click(800, 4400),
      key('Enter'),
    ],
  },
  'measure-thickness': {
    before: SHEET,
    acts: [
      say('Square from a face to the other.'),
      run('measure-thickness'),
      click(600, 3000),
      click(800, 3000),
    ],
  },
};
