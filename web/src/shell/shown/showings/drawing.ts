import type { Entity } from '@calque/core/model';
import { click, key, point, run, say, type, type Showing } from '../acts';
import { line, path, SHEET } from './given';

/** What is drawn. */
export const DRAWING: Record<string, Showing> = {
  line: {
    before: SHEET,
    acts: [
      say('Lines one after the other; Backspace takes one back, Esc ends.'),
      run('line'),
      click(800, 800),
      click(6400, 4400),
      key('Backspace'),
      click(6400, 800),
      key('Escape'),
    ],
  },
  path: {
    before: [],
    acts: [
      say('Lines and arcs as one element. F turns from line to arc and back.'),
      run('path'),
      click(1200, 1500),
      click(3800, 1500),
      key('f'),
      click(3800, 3500),
      key('f'),
      click(1200, 3500),
      key('Enter'),
    ],
  },
  rectangle: {
    before: [],
    acts: [
      say('Two corners, or one corner and two figures.'),
      run('rectangle'),
      click(1200, 1200),
      point(4200, 3000),
      type('3600', '2200'),
    ],
  },
  slot: {
    before: [],
    acts: [
      say('The centres of its ends, then how wide it is.'),
      run('slot'),
      click(2000, 2500),
      click(5000, 2500),
      point(3500, 2900),
      type('600'),
    ],
  },
  regular: {
    before: [],
    acts: [
      say('Its centre and a corner; the number of sides is typed.'),
      run('regular'),
      click(3500, 2500),
      point(4700, 2500),
      type('8', '1200'),
    ],
  },
  circle: {
    before: [],
    acts: [
      say('Centre and radius. F: by a diameter, or through three points.'),
      run('circle'),
      click(2500, 2500),
      point(3300, 2500),
      type('800'),
    ],
  },
  arc: {
    before: SHEET,
    acts: [
      say("Through three points, such as the plan's own swing of a door."),
      run('arc'),
      click(1500, 1700),
      click(2136, 1436),
      click(2400, 800),
    ],
  },
  curve: {
    before: [],
    acts: [
      say('Points that it is to run through; Enter ends it.'),
      run('curve'),
      click(900, 1500),
      click(2300, 3000),
      click(3700, 1700),
      click(5800, 3300),
      key('Enter'),
    ],
  },
  text: {
    before: SHEET,
    acts: [
      say('Where it begins, then what it says.'),
      run('text'),
      click(2600, 2400),
      type('Boat bay', '250'),
    ],
  },
  dimension: {
    before: SHEET,
    acts: [
      say('Two ends, and where the figure goes. It follows what it measures.'),
      run('dimension'),
      click(800, 800),
      click(6400, 800),
      click(3600, 1400),
    ],
  },
  area: {
    before: SHEET,
    acts: [
      say('Outline an area: its figure stands in it, and follows.'),
      run('area'),
      click(800, 800),
      click(6400, 800),
      click(6400, 4400),
      click(800, 4400),
      click(800, 800),
    ],
  },
  'symbol-north': {
    before: SHEET,
    acts: [
      say('Where it stands, then where north is.'),
      run('symbol-north'),
      click(5600, 1600),
      click(5900, 2600),
    ],
  },
  'symbol-level': {
    before: SHEET,
    acts: [say('A level mark says how high the plane lies there.'), run('symbol-level'), click(2600, 2400)],
  },
  'symbol-section': {
    before: SHEET,
    acts: [
      say('Where it stands, and which way it looks.'),
      run('symbol-section'),
      click(3600, 400),
      click(3600, 1400),
    ],
  },
  place: {
    before: [
      {
        type: 'assembly',
        id: 'seat',
        name: 'Seat',
        elements: [
          path(
            'p',
            [
              [-250, -250],
              [250, -250],
              [250, 250],
              [-250, 250],
            ],
            true,
          ),
          line('back', [-250, 330], [250, 330]),
        ],
      } as Entity,
    ],
    acts: [
      say('A group is placed click after click; type how it is turned.'),
      run('place'),
      click(1500, 2000),
      point(2500, 2000),
      type('90'),
      click(2700, 2000),
      click(3900, 2000),
      key('Escape'),
    ],
  },
};
