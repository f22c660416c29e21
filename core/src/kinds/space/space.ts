import { boxOfPoints, meanScale, applyTransform } from '../../geometry/index.ts';
import { pairOf, shifted, type Drawn, type Pair } from '../drawn.ts';
import { textWidth, type Shape } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_GRIPS, NO_INSIDE, type Kind } from '../kind.ts';

/** A room of the building. It is whatever walls enclose around its point: its outline follows from them and is kept nowhere. */
export interface Space extends Drawn {
  type: 'space';
  at: Pair;
  /** Perhaps nothing. */
  name: string;
  number: string;
  /** Height of its letters in a drawing, millimetres. */
  letters: number;
  /** The area that the sheet prints there, square millimetres; null where it prints none. */
  printed: number | null;
  /** Is it not heated? What is not said is taken to be. */
  unheated?: boolean | null;
}

/** Lines of what is written of it, without its area. */
export const spaceLines = ({ name, number }: Pick<Space, 'name' | 'number'>): string[] =>
  [name, number].filter((line) => line !== '');

/** What stands for it where it is pointed at: a frame as wide as its words. */
function frameOf(e: Space): [number, number][] {
  const lines = spaceLines(e),
    w = Math.max(e.letters, ...lines.map((l) => textWidth(l, e.letters))) / 2,
    h = (Math.max(1, lines.length) * LINE * e.letters) / 2,
    [x, y] = e.at;
  return [
    [x - w, y - h],
    [x + w, y - h],
    [x + w, y + h],
    [x - w, y + h],
  ];
}
/** From one line to the next, in heights of letters. */
const LINE = 1.5;

export const SPACE: Kind<Space> = {
  word: () => 'room',
  summary: (e) => spaceLines(e).join(' '),
  layer: { name: 'Rooms', colour: 0x55616d, lineType: 'solid' },
  isRun: false,
  carries: false,
  rests: null,
  refers: [],
  blocks: NO_BLOCKS,
  doubts: null,
  shapes: (e, layer) => {
    const lines = spaceLines(e);
    return lines.map((text, i): Shape => ({
      kind: 'text',
      layer,
      x: e.at[0] - textWidth(text, e.letters) / 2,
      y: e.at[1] + (lines.length / 2 - i - 1) * LINE * e.letters,
      height: e.letters,
      radians: 0,
      text,
    }));
  },
  pieces: () => [],
  box: (e) => boxOfPoints(frameOf(e)),
  length: () => 0,
  frame: frameOf,
  inside: NO_INSIDE,
  grips: (e) => [e.at],
  joints: NO_GRIPS,
  ends: () => null,
  edges: NO_EDGES,
  moved: (e, map) => ({ ...e, at: pairOf(applyTransform(map, e.at)), letters: e.letters * meanScale(map) }),
  withGrip: (e, _grip, to) => ({ ...e, at: pairOf(to) }),
  stretched: (e, holds, by) => (holds(e.at) ? { ...e, at: shifted(e.at, by) } : e),
};
