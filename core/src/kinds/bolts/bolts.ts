import {
  applyTransform,
  arcPiece,
  determinant,
  meanScale,
  segmentPiece,
  TAU,
  turnOf,
  type Piece,
  type Point,
} from '../../geometry/index.ts';
import { formatLength, type LengthStyle } from '../../units/index.ts';
import { isOnePoint, pairOf, shifted, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece, type Shape } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, NO_GRIPS, NO_INSIDE, type Kind } from '../kind.ts';
import { boxOfPieces } from '../path/path.ts';

/** How bolts stand about their middle: in rows (each so far from the next) and columns, or on a circle; millimetres. */
export type BoltPattern =
  | { form: 'rows'; rows: number; columns: number; pitch: number; gauge: number }
  | { form: 'circle'; count: number; diameter: number };

/** More rows, columns, or bolts of a circle, than a pattern has; and more bolts. */
export const MOST_BOLTS = 100,
  MOST_IN_PATTERN = 1000;

/** Grades as they are ordered: ISO 898-1, ASTM F3125. Absent: what is usual for the size. */
export const BOLT_GRADES = ['4.6', '5.6', '8.8', '10.9', 'A325', 'A490'] as const;
export type BoltGrade = (typeof BOLT_GRADES)[number];

/** Bolts of one size that go square through what lies on their plane; their length follows from that: see @calque/core/framing. */
export interface Bolts extends Drawn {
  type: 'bolts';
  /** The middle of the pattern, and how that is turned, radians. */
  at: Pair;
  turn: number;
  pattern: BoltPattern;
  /** Nominal diameter. */
  d: number;
  grade?: BoltGrade | null;
  /** The plate or the member that they hold; null where that is gone. */
  of: string | null;
  /** Where on their axis they were put: of several walls of a member they go through the nearest to it. */
  rise: number;
  /** Are the heads on the side from which the plane is not seen? */
  reversed: boolean;
}

const placer = ({ at, turn }: Pick<Bolts, 'at' | 'turn'>) => {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return ([u, v]: Point): Pair => [at[0] + c * u - s * v, at[1] + s * u + c * v];
};

/** The places of a pattern about its middle: columns lie side by side along x, rows along y. */
function placesAbout(pattern: BoltPattern): Pair[] {
  if (pattern.form === 'circle')
    return Array.from({ length: pattern.count }, (_, i): Pair => {
      const angle = (TAU * i) / pattern.count;
      return [(pattern.diameter / 2) * Math.cos(angle), (pattern.diameter / 2) * Math.sin(angle)];
    });
  const { rows, columns, pitch, gauge } = pattern;
  return Array.from({ length: rows * columns }, (_, i): Pair => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    return [(column - (columns - 1) / 2) * gauge, (row - (rows - 1) / 2) * pitch];
  });
}

/** Where the bolts stand on their plane. */
export const boltPlaces = (e: Pick<Bolts, 'at' | 'turn' | 'pattern'>): Pair[] =>
  placesAbout(e.pattern).map(placer(e));

/** How many a pattern has. */
export const boltCount = (pattern: BoltPattern): number =>
  pattern.form === 'circle' ? pattern.count : pattern.rows * pattern.columns;

/** A pattern in words: "4, 2 rows at 70, 90 apart", "6 on ⌀ 200". */
export function patternWords(pattern: BoltPattern, style: LengthStyle): string {
  if (pattern.form === 'circle') return `${pattern.count} on ⌀ ${formatLength(pattern.diameter, style)}`;
  const { rows, columns, pitch, gauge } = pattern;
  return [
    String(rows * columns),
    ...(rows > 1 ? [`${rows} rows at ${formatLength(pitch, style)}`] : []),
    ...(columns > 1 ? [`${columns} across at ${formatLength(gauge, style)}`] : []),
  ].join(', ');
}

/** How far from its middle the grip lies by which a pattern is turned. */
const reachOf = ({ pattern, d }: Pick<Bolts, 'pattern' | 'd'>): number =>
  Math.max(0, ...placesAbout(pattern).map(([x, y]) => Math.hypot(x, y))) + 2 * d;

/** Each is drawn by its circle, and a cross as wide as its head. */
function piecesOf(e: Bolts): Piece[] {
  return boltPlaces(e).flatMap(([x, y]): Piece[] => [
    arcPiece({ cx: x, cy: y, r: e.d / 2, start: 0, end: TAU }),
    segmentPiece([x - 0.8 * e.d, y], [x + 0.8 * e.d, y]),
    segmentPiece([x, y - 0.8 * e.d], [x, y + 0.8 * e.d]),
  ]);
}

const scaledPattern = (pattern: BoltPattern, k: number): BoltPattern =>
  pattern.form === 'circle'
    ? { ...pattern, diameter: pattern.diameter * k }
    : { ...pattern, pitch: pattern.pitch * k, gauge: pattern.gauge * k };

export const BOLTS: Kind<Bolts> = {
  word: () => 'bolt pattern',
  summary: (e, style) => `⌀ ${formatLength(e.d, style)}, ${patternWords(e.pattern, style)}`,
  layer: { name: 'Bolts', colour: 0x17273a, lineType: 'solid' },
  isRun: false,
  carries: true,
  rests: {
    on: (e) => [e.of === null ? null : { id: e.of, grip: 0 }],
    // They stay where they are; what they hold is told by name.
    at: (e) => e,
    renamed: (e, to) => (e.of === null ? e : { ...e, of: to({ id: e.of, grip: 0 })?.id ?? null }),
  },
  refers: [],
  shapes: (e, layer) => piecesOf(e).map((p): Shape => shapeOfPiece(p, layer)),
  pieces: piecesOf,
  box: (e) => boxOfPieces(piecesOf(e)),
  length: () => 0,
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: (e) => [e.at, placer(e)([reachOf(e), 0])],
  steadyGrips: 1,
  joints: NO_GRIPS,
  ends: () => null,
  edges: NO_EDGES,
  doubts: null,
  blocks: NO_BLOCKS,
  // How long they are follows from what they hold: see @calque/core/framing.
  bars: () => [],
  moved: (e, map) => {
    const turn = turnOf(map);
    return {
      ...e,
      at: pairOf(applyTransform(map, e.at)),
      turn: determinant(map) < 0 ? turn - e.turn : turn + e.turn,
      pattern: scaledPattern(e.pattern, meanScale(map)),
    };
  },
  withGrip: (e, grip, to) => {
    if (grip === 0) return { ...e, at: pairOf(to) };
    return isOnePoint(to, e.at) ? null : { ...e, turn: Math.atan2(to[1] - e.at[1], to[0] - e.at[0]) };
  },
  stretched: (e, holds, by) => (holds(e.at) ? { ...e, at: shifted(e.at, by) } : e),
};
