import type { Entity, GridLine, Line, Pair, TracedArc, TracedPath, Wall } from '@calque/core/model';
import { choose, click, drag, key, point, run, say, type, call, type Showing } from './acts';
import { laidPlan, slantedPlan } from './plan-sheet';
import { convertPlan, placeStraight, stateScale } from './outcomes';

const base = (id: string) => ({
  id,
  planeId: 'ground',
  source: { underlayId: null, ends: 'typed', thickness: 'typed' } as const,
});
const wall = (id: string, from: Pair, to: Pair, thickness = 200): Wall => ({
  type: 'wall',
  ...base(id),
  from,
  to,
  thickness,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
});
const line = (id: string, from: Pair, to: Pair): Line => ({ type: 'line', ...base(id), from, to });
const gridLine = (id: string, name: string, from: Pair, to: Pair): GridLine => ({
  type: 'gridLine',
  ...base(id),
  from,
  to,
  name,
});
const path = (id: string, points: Pair[], closed = false): TracedPath => ({
  type: 'path',
  ...base(id),
  points,
  bulges: points.map(() => 0).slice(closed ? 0 : 1),
  closed,
});
const circle = (id: string, centre: Pair, radius: number): TracedArc => ({
  type: 'arc',
  ...base(id),
  centre,
  radius,
  start: 0,
  sweep: 2 * Math.PI,
});

const SHEET = [laidPlan()];
/** Before the sheet is to scale: nine tenths of what it should be. */
const OFF = 0.9;
const UNSCALED = [laidPlan(OFF)];
/** What edits are shown on: a small table drawn with four lines. */
const TABLE: Entity[] = [
  line('a', [1500, 1500], [3000, 1500]),
  line('b', [3000, 1500], [3000, 2500]),
  line('c', [3000, 2500], [1500, 2500]),
  line('d', [1500, 2500], [1500, 1500]),
];
const ALL = ['a', 'b', 'c', 'd'];
const TWO_WALLS = [wall('a', [1200, 1500], [5600, 1500]), wall('b', [4000, 2600], [4000, 4400])];
/** The walls of the plan, with one across. */
const ROOM_WALLS: Entity[] = [
  wall('n', [700, 4500], [6500, 4500]),
  wall('s', [700, 700], [6500, 700]),
  wall('w', [700, 700], [700, 4500]),
  wall('e', [6500, 700], [6500, 4500]),
  wall('m', [3300, 700], [3300, 4500], 100),
];
const OF_FOUR = choose(...ALL);

const BUILDING: Record<string, Showing> = {
  wall: {
    before: SHEET,
    acts: [
      say('A wall by its ends: click corners on the plan.'),
      run('wall'),
      say('F turns from the middle line to a face: here the outside of the room is followed.'),
      key('f'),
      click(600, 600),
      click(600, 4600),
      click(6600, 4600),
      say('Or type how long it is.'),
      point(6600, 2500),
      type('4000'),
      click(600, 600),
    ],
  },
  'wall-rectangle': {
    before: SHEET,
    acts: [
      say('Four walls at once: two corners that lie across from one another.'),
      run('wall-rectangle'),
      click(600, 600),
      click(6600, 4600),
    ],
  },
  opening: {
    before: [laidPlan(), wall('a', [600, 700], [6600, 700]), wall('b', [600, 4500], [6600, 4500])],
    acts: [
      say('Point at a wall where the plan shows a door: its edges and its swing are taken from there.'),
      run('opening'),
      point(1950, 700),
      click(1950, 700),
      click(4750, 4500),
      say('Or type how wide it is.'),
      point(5000, 700),
      type('1200'),
    ],
  },
  room: {
    before: [laidPlan(), ...ROOM_WALLS],
    acts: [
      say('Point where walls close: the room is named by the words of the sheet, and follows its walls.'),
      run('room'),
      point(4600, 2600),
      click(4600, 2600),
    ],
  },
  rooms: {
    before: [laidPlan(), ...ROOM_WALLS],
    acts: [say('All that the walls of the storey enclose, in one step.'), run('rooms')],
  },
  thickness: {
    before: SHEET,
    acts: [
      say('How thick are the walls of this plan? Pick a face, then the other.'),
      run('thickness'),
      click(600, 3000),
      click(800, 3000),
      say('The next walls are as thick as that.'),
    ],
  },
  take: {
    before: SHEET,
    acts: [
      say('Take what the plan draws: point at a wall, and see it before it is one.'),
      run('take'),
      point(600, 3000),
      click(600, 3000),
      click(3500, 4600),
      say('Or drag across several at once.'),
      drag(6200, 2600, 6900, 2600),
    ],
  },
  convert: {
    before: SHEET,
    acts: [
      say('All lines of a region become lines of your own, with layers.'),
      point(300, 300),
      call(convertPlan),
      say('The sheet can be hidden or thrown away then.'),
      point(6800, 4900),
    ],
  },
  'make-walls': {
    before: TABLE,
    acts: [
      say('Lines that are selected become walls, as thick as the next wall would be.'),
      OF_FOUR,
      run('make-walls'),
    ],
  },
  'wall-lines': {
    before: TWO_WALLS,
    acts: [say('Walls become lines again: their outline.'), choose('a', 'b'), run('wall-lines')],
  },
};

const DRAWING: Record<string, Showing> = {
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

const LEVELS: Record<string, Showing> = {
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
  'add-storey': {
    before: [wall('a', [800, 800], [6000, 800])],
    acts: [say('A storey above the others; what lies below can show as a ghost.'), run('add-storey')],
  },
};

const CHANGE: Record<string, Showing> = {
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

const k = OFF;
const CALIBRATE: Record<string, Showing> = {
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

const CHECK: Record<string, Showing> = {
  measure: {
    before: SHEET,
    acts: [say('From a point to another.'), run('measure'), click(800, 800), click(6400, 4400)],
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

/** How each instrument is shown, by its command. */
export const SHOWINGS: Readonly<Record<string, Showing>> = {
  ...BUILDING,
  ...DRAWING,
  ...LEVELS,
  ...CHANGE,
  ...CALIBRATE,
  ...CHECK,
};
