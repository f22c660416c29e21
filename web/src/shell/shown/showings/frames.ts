import { choose, click, key, run, say, type, type Showing } from '../acts';
import { ALL, gridLine, SHEET, TABLE } from './given';

/** Frames. */
export const FRAMES: Record<string, Showing> = {
  member: {
    before: SHEET,
    acts: [
      say('A member by its ends; its section and the line that is drawn are chosen in the card.'),
      run('member'),
      click(700, 700),
      click(6500, 700),
      say('In a chain each goes on where the last one ends.'),
      key('f'),
      click(700, 4500),
      click(3600, 4500),
      click(6500, 4500),
      key('Enter'),
    ],
  },
  'members-on-grid': {
    before: [
      gridLine('a', 'A', [1000, 0], [1000, 5000]),
      gridLine('b', 'B', [6000, 0], [6000, 5000]),
      gridLine('c', '1', [0, 1000], [7000, 1000]),
      gridLine('d', '2', [0, 4000], [7000, 4000]),
    ],
    acts: [
      say('One stands at each crossing where none does yet, as high as the storey.'),
      run('members-on-grid'),
    ],
  },
  joint: {
    before: SHEET,
    acts: [
      say('Two members that meet: the beam is made with an end plate on the face of the other.'),
      run('member'),
      click(700, 700),
      click(700, 4500),
      key('Escape'),
      run('member'),
      click(6500, 2500),
      click(700, 2500),
      key('Escape'),
      run('joint'),
      click(2500, 2500),
      say('Its end is pointed at, then the member that it meets.'),
      click(700, 4000),
    ],
  },
  'join-chosen': {
    before: SHEET,
    acts: [
      say('Members that are selected are joined wherever their ends meet others.'),
      run('member'),
      click(700, 700),
      click(700, 4500),
      key('Escape'),
      run('member'),
      click(6500, 2500),
      click(700, 2500),
      key('Escape'),
      click(3600, 2500),
      run('join-chosen'),
    ],
  },
  'frame-along': {
    before: SHEET,
    acts: [
      say(
        'On the upright plane of a frame: it is copied along, by grid lines or by spacings that are typed.',
      ),
      run('plane-section'),
      click(600, 600),
      click(6600, 600),
      type('Frame 1'),
      run('member'),
      click(700, 0),
      click(700, 2500),
      key('Escape'),
      run('frame-along'),
    ],
  },
  'swap-ends': {
    before: SHEET,
    acts: [
      say('A member begins at its dot.'),
      run('member'),
      click(700, 2500),
      click(6500, 2500),
      key('Escape'),
      click(3600, 2500),
      say('Start and end are changed, and it stays where it stands.'),
      run('swap-ends'),
    ],
  },
  'mark-members': {
    before: SHEET,
    acts: [
      say('Equal pieces get equal marks, by what they are for.'),
      run('member'),
      click(700, 700),
      click(6500, 700),
      click(700, 2500),
      click(6500, 2500),
      run('mark-members'),
    ],
  },
  'make-members': {
    before: TABLE,
    acts: [say('Lines that are selected become members along them.'), choose(...ALL), run('make-members')],
  },
};
