import type { Entity } from '@calque/core/model';
import { choose, click, key, point, run, say, type, type Showing } from '../acts';
import { base, wall, line, path, circle, TABLE, ALL, OF_FOUR } from './given';

/** What is done with what is there. */
export const CHANGE: Record<string, Showing> = {
  'move-chosen': {
    before: TABLE,
    acts: [
      say('From a point to another, or by typed figures.'),
      OF_FOUR,
      run('move-chosen'),
      click(1500, 1500),
      point(3400, 2200),
      type('2000', '1000'),
    ],
  },
  'copy-chosen': {
    before: TABLE,
    acts: [
      say('A copy, or several in equal steps.'),
      OF_FOUR,
      run('copy-chosen'),
      click(1500, 1500),
      point(3400, 1500),
      type('1700', '0', '2'),
    ],
  },
  'row-chosen': {
    before: [circle('a', [1200, 2500], 300)],
    acts: [
      say('So many to the end of a row, or at a spacing.'),
      choose('a'),
      run('row-chosen'),
      click(1200, 2500),
      point(5600, 2500),
      click(5600, 2500),
    ],
  },
  'turn-chosen': {
    before: TABLE,
    acts: [
      say('About a point: from a direction to another, or by an angle.'),
      OF_FOUR,
      run('turn-chosen'),
      click(1500, 1500),
      click(3000, 1500),
      point(2700, 2300),
      type('30'),
    ],
  },
  'mirror-chosen': {
    before: [...TABLE, line('e', [1500, 2500], [3000, 1500])],
    acts: [
      say('Two points of the line in which it is mirrored.'),
      choose(...ALL, 'e'),
      run('mirror-chosen'),
      click(3500, 1000),
      click(3500, 3000),
    ],
  },
  'scale-chosen': {
    before: TABLE,
    acts: [
      say('About a point, by a factor or from a length to another.'),
      OF_FOUR,
      run('scale-chosen'),
      click(1500, 1500),
      click(3000, 1500),
      click(4500, 1500),
    ],
  },
  'align-chosen': {
    before: [...TABLE, line('e', [4200, 1200], [5600, 3200])],
    acts: [
      say('Two points onto two others: moved and turned at once.'),
      OF_FOUR,
      run('align-chosen'),
      click(1500, 1500),
      click(4200, 1200),
      click(3000, 1500),
      click(5600, 3200),
    ],
  },
  join: {
    before: TABLE,
    acts: [say('Lines that meet become one path.'), OF_FOUR, run('join')],
  },
  match: {
    before: [wall('a', [1000, 1500], [6000, 1500], 300), wall('b', [1000, 3500], [6000, 3500], 100)],
    acts: [
      say('What is selected takes thickness, layer and the like of what is clicked.'),
      choose('b'),
      run('match'),
      click(2500, 1500),
    ],
  },
  done: {
    before: TABLE,
    acts: [say('Out of the way while tracing goes on: nothing finds it.'), OF_FOUR, run('done')],
  },
  outline: {
    before: [...TABLE, circle('e', [4600, 2000], 500)],
    acts: [
      say('Select by an outline of any shape; Enter closes it.'),
      run('outline'),
      click(1200, 1200),
      click(3300, 1200),
      click(3300, 2800),
      click(1200, 2800),
      key('Enter'),
    ],
  },
  group: {
    before: TABLE,
    acts: [
      say('Elements under a name; its point is where it is held when it is placed.'),
      OF_FOUR,
      run('group'),
      click(1500, 1500),
      type('Table'),
    ],
  },
  'edit-group': {
    before: [
      { type: 'assembly', id: 'seat', name: 'Seat', elements: [line('l', [-400, 0], [400, 0])] } as Entity,
      ...([1500, 3500, 5500] as const).map(
        (x, i) =>
          ({
            type: 'placed',
            ...base(`p${i}`),
            assemblyId: 'seat',
            placement: [1, 0, 0, 1, x, 2500],
          }) as Entity,
      ),
    ],
    acts: [
      say('Edit one, and all that are placed follow.'),
      choose('p0'),
      run('edit-group'),
      run('line'),
      click(1100, 2500),
      click(1500, 3200),
      click(1900, 2500),
      key('Escape'),
      run('edit-group'),
    ],
  },
  apart: {
    before: [
      path('a', [
        [1500, 1500],
        [5000, 1500],
        [5000, 3500],
      ]),
    ],
    acts: [say('A path becomes its lines, a group its elements.'), choose('a'), run('apart')],
  },
  trim: {
    before: [line('a', [1000, 2000], [6000, 2000]), line('b', [3500, 1000], [3500, 3500])],
    acts: [
      say('Click the part that is to go.'),
      run('trim'),
      point(5200, 2000),
      click(5200, 2000),
      click(3500, 1300),
    ],
  },
  corner: {
    before: [line('a', [1000, 1500], [4500, 1500]), line('b', [5000, 2000], [5000, 4000])],
    acts: [
      say('Two lines come to a corner: click each on the side that stays.'),
      run('corner'),
      click(2500, 1500),
      click(5000, 3200),
    ],
  },
  offset: {
    before: [
      path('a', [
        [1200, 1200],
        [5200, 1200],
        [5200, 3600],
      ]),
    ],
    acts: [
      say('Beside an element, at a distance.'),
      run('offset'),
      click(3000, 1200),
      point(3000, 1800),
      type('400'),
      click(3000, 1800),
    ],
  },
  split: {
    before: [line('a', [1000, 2500], [6000, 2500])],
    acts: [say('Click where it is to be parted in two.'), run('split'), click(3000, 2500), choose('a')],
  },
  stretch: {
    before: TABLE,
    acts: [
      say('All points in a box move; what reaches out of it is stretched.'),
      run('stretch'),
      click(2600, 1200),
      click(3400, 2800),
      click(3000, 1500),
      point(4600, 1500),
      type('1500', '0'),
    ],
  },
  remove: {
    before: [...TABLE, circle('e', [4600, 2000], 500)],
    acts: [
      say('What is selected goes; Ctrl+Z brings it back.'),
      choose('e'),
      point(4600, 2500),
      run('line'),
      choose('e'),
      run('remove'),
    ],
  },
};
