import { choose, click, drag, key, point, run, say, type, call, type Showing } from '../acts';
import { laidPlan } from '../plan-sheet';
import { convertPlan } from '../outcomes';
import { circle, wall, SHEET, TABLE, TWO_WALLS, ROOM_WALLS, OF_FOUR } from './given';

/** What is built. */
export const BUILDING: Record<string, Showing> = {
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
  'wall-arc': {
    before: SHEET,
    acts: [
      say('A wall through three points: where it begins, one on its way, where it ends.'),
      run('wall-arc'),
      click(600, 600),
      click(3600, 1800),
      click(6600, 600),
      say('F takes its ends and a radius instead.'),
    ],
  },
  'wall-corner': {
    before: ROOM_WALLS,
    acts: [
      say('Point at a corner: each click has it parted in the next way.'),
      run('wall-corner'),
      point(600, 600),
      click(600, 600),
      say(
        'One of the two walls runs through to the far face, the other stops at it; layers meet like with like.',
      ),
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
  'open-boundary': {
    before: ROOM_WALLS,
    acts: [
      say('From wall to wall, where two rooms run into one another.'),
      run('open-boundary'),
      click(2400, 800),
      click(2400, 4400),
      say('Each side of it is a room of its own.'),
    ],
  },
  slab: {
    before: SHEET,
    acts: [
      say('A slab by its corners: a floor, a ceiling, a flat roof.'),
      run('slab'),
      click(600, 600),
      click(6600, 600),
      click(6600, 4600),
      click(600, 4600),
      say('A click on the first corner closes it.'),
      click(600, 600),
    ],
  },
  'slab-walls': {
    before: [laidPlan(), ...ROOM_WALLS],
    acts: [say('A slab to the outside faces of the walls, in one step.'), run('slab-walls')],
  },
  'slab-hole': {
    before: [laidPlan(), ...ROOM_WALLS],
    acts: [
      say('A hole in a slab, for a stair or a shaft.'),
      run('slab-walls'),
      run('slab-hole'),
      click(1500, 1500),
      click(2500, 1500),
      click(2500, 3000),
      click(1500, 3000),
      click(1500, 1500),
    ],
  },
  column: {
    before: SHEET,
    acts: [
      say('Type the size of a column, then click where they stand.'),
      run('column'),
      point(2000, 2000),
      type('400', '400'),
      click(4000, 2000),
      say('F makes them round.'),
      key('f'),
      click(5000, 3000),
    ],
  },
  roof: {
    before: SHEET,
    acts: [
      say('A roof by the corners of its outline: each side rises at its pitch.'),
      run('roof'),
      click(600, 600),
      click(6600, 600),
      click(6600, 4600),
      click(600, 4600),
      click(600, 600),
      say('Sides are made gables, or given a pitch of their own, in the card.'),
    ],
  },
  'roof-walls': {
    before: [laidPlan(), ...ROOM_WALLS],
    acts: [say('A roof over the walls; they go up to it.'), run('roof-walls')],
  },
  stair: {
    before: SHEET,
    acts: [
      say('A stair by the middles of its first and its last riser; steps that the plan draws are counted.'),
      run('stair'),
      click(1500, 2000),
      click(5000, 2000),
    ],
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
  see: {
    before: SHEET,
    acts: [
      say('Calque tells what it sees on the plan: nothing is drawn before you take it.'),
      run('see'),
      point(600, 3000),
      say('Click a wall to take it with its openings, drag a box, or take all in the panel.'),
      point(3500, 4600),
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
  'make-columns': {
    before: [circle('c', [2500, 2500], 300)],
    acts: [say('A circle or a closed outline becomes a column.'), choose('c'), run('make-columns')],
  },
  'wall-lines': {
    before: TWO_WALLS,
    acts: [say('Walls become lines again: their outline.'), choose('a', 'b'), run('wall-lines')],
  },
};
