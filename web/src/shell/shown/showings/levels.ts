import { call, choose, click, point, run, say, type, type Showing } from '../acts';
import { wall, gridLine, SHEET } from './given';

/** Grid, storeys and planes. */
export const LEVELS: Record<string, Showing> = {
  'grid-line': {
    before: SHEET,
    acts: [
      say('A grid line by its ends; names run on by themselves.'),
      run('grid-line'),
      click(700, 5200),
      click(700, 300),
      click(3600, 5200),
      click(3600, 300),
    ],
  },
  grid: {
    before: SHEET,
    acts: [say('A grid of equal steps that picks hold to.'), run('grid'), point(3000, 2000)],
  },
  'plane-elevation': {
    before: SHEET,
    acts: [
      say('Two points of the plan, left and right as one looks at it: an upright plane for an elevation.'),
      run('plane-elevation'),
      click(600, 600),
      click(6600, 600),
      type('River side'),
      say('Elevations are laid on it, and traced square on.'),
    ],
  },
  'plane-section': {
    before: SHEET,
    acts: [
      say('A section stands across the plan, from its left end to its right.'),
      run('plane-section'),
      click(3600, 300),
      click(3600, 4900),
      type('Section A'),
    ],
  },
  'plane-grid-line': {
    before: [gridLine('g', 'B', [3600, 5000], [3600, 300])],
    acts: [
      say('On a grid line that is selected: click the side from which one looks.'),
      choose('g'),
      run('plane-grid-line'),
      click(5000, 2500),
      type('Frame B'),
    ],
  },
  'copy-storey': {
    before: [wall('a', [800, 800], [6000, 800]), wall('b', [6000, 800], [6000, 4600])],
    acts: [
      say('All that is traced on a storey, once more on the next one above.'),
      run('add-storey'),
      call((table) => table.setPlane('ground')),
      run('copy-storey'),
    ],
  },
  'storey-level': {
    before: SHEET,
    acts: [
      say('On an upright plane with an elevation laid on it: click a level mark.'),
      run('plane-elevation'),
      click(600, 600),
      click(6600, 600),
      type('River side'),
      run('storey-level'),
      click(3000, 2600),
      say('The printed figure is the level of the storey, or type it; a new name makes a new storey.'),
      type('Upper floor', '2600'),
    ],
  },
  'new-part': {
    before: [],
    acts: [
      say(
        'A part has planes of its own: front, top and side. Views of its sheet are laid on them and traced.',
      ),
      run('new-part'),
      say('An outline that is selected is extruded; rules and figures drive it.'),
    ],
  },
  'add-storey': {
    before: [wall('a', [800, 800], [6000, 800])],
    acts: [say('A storey above the others; what lies below can show as a ghost.'), run('add-storey')],
  },
};
