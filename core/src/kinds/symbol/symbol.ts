import {
  applyTransform,
  arcPiece,
  boxOfPoints,
  meanScale,
  pieceBox,
  segmentPiece,
  TAU,
  unionBox,
  type Piece,
  type Point,
  type Transform,
} from '../../geometry/index.ts';
import { isOnePoint, pairOf, shifted, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece, textWidth, type Shape } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, NO_GRIPS, NO_INSIDE, type Kind } from '../kind.ts';

/** A sign that says something of the drawing: where north is, how high a level lies, where a section is cut and which way it looks. */
export type Mark = 'north' | 'level' | 'section';
export const MARKS: readonly Mark[] = ['north', 'level', 'section'];

/** A symbol mark; `angle` is the direction in which it points, of a level mark that of its foot line; `size` across it, millimetres. */
export interface SymbolMark extends Drawn {
  type: 'symbol';
  mark: Mark;
  at: Pair;
  angle: number;
  size: number;
  /** What stands beside it: "N", "+2.700", "A"; perhaps nothing. */
  text: string;
}

export const MARK_WORDS: Readonly<Record<Mark, string>> = {
  north: 'north arrow',
  level: 'level mark',
  section: 'section mark',
};

/** Letters of a mark in shares of its size. */
const LETTERS = 0.45;

/** Places of a mark about its point, in shares of its size: to the right along its direction, and to the left of that. */
type Local = (u: number, v: number) => Point;
const localOf = ({ at, angle, size }: SymbolMark): Local => {
  const [c, s] = [Math.cos(angle) * size, Math.sin(angle) * size];
  return (u, v) => [at[0] + c * u - s * v, at[1] + s * u + c * v];
};

const closed = (points: readonly Point[]): Piece[] =>
  points.map((p, i) => segmentPiece(p, points[(i + 1) % points.length]));
const circle = ({ at, size }: SymbolMark): Piece =>
  arcPiece({ cx: at[0], cy: at[1], r: size / 2, start: 0, end: TAU });

const SLANT = Math.SQRT1_2 / 2;

/** The lines of each mark. */
const LINES: Readonly<Record<Mark, (e: SymbolMark, at: Local) => Piece[]>> = {
  // A ring, and a notched arrow within it.
  north: (e, at) => [circle(e), ...closed([at(0.5, 0), at(-0.3, 0.22), at(-0.15, 0), at(-0.3, -0.22)])],
  // A triangle that stands on the level with its point, and a line for the figure to stand on.
  level: (_e, at) => [
    ...closed([at(0, 0), at(0.3, 0.5), at(-0.3, 0.5)]),
    segmentPiece(at(0.3, 0.5), at(2.2, 0.5)),
  ],
  // A ring for the name, and a point that looks the way the section does.
  section: (e, at) => [circle(e), ...closed([at(0.85, 0), at(SLANT, SLANT), at(SLANT, -SLANT)])],
};

const linesOf = (e: SymbolMark): Piece[] => LINES[e.mark](e, localOf(e));

/** Where the letters of a mark stand: where they begin, their height and their turn; null for none. */
export function symbolLetters(e: SymbolMark): { at: Point; height: number; angle: number } | null {
  if (e.text === '') return null;
  const local = localOf(e),
    height = LETTERS * e.size;
  if (e.mark === 'level') return { at: local(0.45, 0.6), height, angle: e.angle };
  // Names stand upright whichever way the mark points: about its middle, or before its tip.
  const [x, y] = e.mark === 'north' ? local(0.85, 0) : e.at;
  return { at: [x - textWidth(e.text, height) / 2, y - height / 3], height, angle: 0 };
}

function boxOf(e: SymbolMark) {
  const lines = linesOf(e).map(pieceBox).reduce(unionBox),
    letters = symbolLetters(e);
  if (!letters) return lines;
  const { at, height, angle } = letters,
    w = textWidth(e.text, height),
    [c, s] = [Math.cos(angle), Math.sin(angle)];
  const corners = [
    [0, 0],
    [w, 0],
    [w, height],
    [0, height],
  ].map(([u, v]): Point => [at[0] + c * u - s * v, at[1] + s * u + c * v]);
  return unionBox(lines, boxOfPoints(corners));
}

/** The direction of the grip that turns a mark: where it points, of a level mark upwards. */
const AXIS: Readonly<Record<Mark, number>> = { north: 0, level: Math.PI / 2, section: 0 };
const handleOf = ({ at, angle, size, mark }: SymbolMark): [number, number] => [
  at[0] + size * Math.cos(angle + AXIS[mark]),
  at[1] + size * Math.sin(angle + AXIS[mark]),
];

/** A mirrored mark stays readable: its axis goes where the mirror shows it, and it is drawn about that as ever. */
function moved(e: SymbolMark, map: Transform): SymbolMark {
  const a = e.angle + AXIS[e.mark],
    [c, s] = [Math.cos(a), Math.sin(a)];
  return {
    ...e,
    at: pairOf(applyTransform(map, e.at)),
    angle: Math.atan2(map[1] * c + map[3] * s, map[0] * c + map[2] * s) - AXIS[e.mark],
    size: e.size * meanScale(map),
  };
}

export const SYMBOL: Kind<SymbolMark> = {
  word: (e) => MARK_WORDS[e.mark],
  summary: (e) => (e.text === '' ? '' : `"${e.text}"`),
  layer: { name: 'Symbols', colour: 0x17273a, lineType: 'solid' },
  isRun: false,
  carries: true,
  rests: null,
  refers: [],
  blocks: NO_BLOCKS,
  doubts: null,
  shapes(e, layer) {
    const letters = symbolLetters(e);
    return [
      ...linesOf(e).map((piece): Shape => shapeOfPiece(piece, layer)),
      ...(letters
        ? [
            {
              kind: 'text',
              layer,
              x: letters.at[0],
              y: letters.at[1],
              height: letters.height,
              radians: letters.angle,
              text: e.text,
            } as const,
          ]
        : []),
    ];
  },
  pieces: linesOf,
  box: boxOf,
  length: () => 0,
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: (e) => [e.at, handleOf(e)],
  joints: NO_GRIPS,
  ends: () => null,
  edges: NO_EDGES,
  moved,
  withGrip(e, grip, to) {
    if (grip === 0) return { ...e, at: pairOf(to) };
    if (isOnePoint(to, e.at)) return null;
    const [dx, dy] = [to[0] - e.at[0], to[1] - e.at[1]];
    return { ...e, angle: Math.atan2(dy, dx) - AXIS[e.mark], size: Math.hypot(dx, dy) };
  },
  stretched: (e, holds, by) => (holds(e.at) ? { ...e, at: shifted(e.at, by) } : e),
};
