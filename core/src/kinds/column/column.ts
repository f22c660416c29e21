import {
  applyTransform,
  arcPiece,
  determinant,
  flattenPiece,
  lengthOfPieces,
  meanScale,
  outlineOf,
  pathPieces,
  segmentPiece,
  TAU,
  turnOf,
  type Block,
  type Piece,
  type Point,
  type Ring,
} from '../../geometry/index.ts';
import { formatLength, formatLengthWithUnit, type LengthStyle } from '../../units/index.ts';
import { isOnePoint, mirroredBulges, pairOf, shifted, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece, type Shape } from '../flat-shape.ts';
import { NO_EDGES, NO_FRAME, NO_GRIPS, type Kind } from '../kind.ts';
import { boxOfPieces } from '../path/path.ts';

/** The section of a column; of an outline the points lie about the column's own, before it is turned. */
export type ColumnSection =
  | { form: 'round'; diameter: number }
  | { form: 'rectangle'; width: number; depth: number }
  | { form: 'outline'; points: Pair[]; bulges: number[] };

/** A column that stands at a point; millimetres, radians. */
export interface Column extends Drawn {
  type: 'column';
  at: Pair;
  /** How its section is turned. */
  angle: number;
  section: ColumnSection;
  /** Where it stands above the level of its storey. */
  foot: number;
  height: number;
  heightAssumed: boolean;
}

const CHORDS = 0.2;

/** A section as another similarity shows it: so many times as large, and perhaps mirrored. */
function scaledSection(section: ColumnSection, k: number, mirrored: boolean): ColumnSection {
  if (section.form === 'round') return { ...section, diameter: section.diameter * k };
  if (section.form === 'rectangle') return { ...section, width: section.width * k, depth: section.depth * k };
  return {
    ...section,
    points: section.points.map(([x, y]): Pair => [x * k, (mirrored ? -y : y) * k]),
    bulges: mirroredBulges(section.bulges, mirrored),
  };
}

const placer = ({ at, angle }: Column) => {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return ([u, v]: Point): Pair => [at[0] + c * u - s * v, at[1] + s * u + c * v];
};

/** The corners of a section that has any, about the column's point. */
function cornersOf(section: ColumnSection): Pair[] {
  if (section.form === 'outline') return section.points;
  if (section.form === 'round') return [];
  const [w, d] = [section.width / 2, section.depth / 2];
  return [
    [-w, -d],
    [w, -d],
    [w, d],
    [-w, d],
  ];
}

function piecesOf(e: Column): Piece[] {
  const { section } = e,
    place = placer(e);
  if (section.form === 'round')
    return [arcPiece({ cx: e.at[0], cy: e.at[1], r: section.diameter / 2, start: 0, end: TAU })];
  const points = cornersOf(section).map(place);
  if (section.form === 'outline') return pathPieces({ points, bulges: section.bulges, closed: true });
  return points.map((p, i) => segmentPiece(p, points[(i + 1) % points.length]));
}

/** The outline of a column in plan, as a polygon. */
export const columnRing = (e: Column): Ring =>
  outlineOf([piecesOf(e).flatMap((p) => flattenPiece(p, CHORDS).slice(0, -1))])[0];

/** The size of a section in words: "300 x 300", "⌀ 250". */
export function sectionWords(section: ColumnSection, style: LengthStyle): string {
  if (section.form === 'round') return `⌀ ${formatLengthWithUnit(section.diameter, style)}`;
  if (section.form === 'rectangle')
    return `${formatLength(section.width, style)} x ${formatLengthWithUnit(section.depth, style)}`;
  return 'drawn outline';
}

/** How far from its point the grip lies by which a column is turned. */
const reachOf = ({ section }: Column): number =>
  section.form === 'round'
    ? section.diameter / 2
    : Math.max(...cornersOf(section).map(([x, y]) => Math.hypot(x, y)));

export const COLUMN: Kind<Column> = {
  word: () => 'column',
  summary: (e, style) => sectionWords(e.section, style),
  layer: { name: 'Columns', colour: 0x17273a, lineType: 'solid' },
  isRun: false,
  carries: true,
  steadyGrips: 1,
  rests: null,
  refers: [],
  shapes: (e, layer) => piecesOf(e).map((piece): Shape => shapeOfPiece(piece, layer)),
  pieces: piecesOf,
  box: (e) => boxOfPieces(piecesOf(e)),
  length: (e) => lengthOfPieces(piecesOf(e)),
  frame: NO_FRAME,
  inside: (e) => [columnRing(e)],
  grips: (e) => [e.at, placer(e)([reachOf(e), 0])],
  joints: NO_GRIPS,
  ends: () => null,
  edges: NO_EDGES,
  doubts: {
    assumed: (e) => (e.heightAssumed ? ['height'] : []),
    confirmed: (e) => ({ ...e, heightAssumed: false }),
  },
  blocks: (e): Block[] => [{ outline: [columnRing(e)], low: e.foot, high: e.foot + e.height }],
  moved: (e, map) => {
    const mirrored = determinant(map) < 0,
      turn = turnOf(map);
    return {
      ...e,
      at: pairOf(applyTransform(map, e.at)),
      angle: mirrored ? turn - e.angle : turn + e.angle,
      section: scaledSection(e.section, meanScale(map), mirrored),
    };
  },
  withGrip: (e, grip, to) => {
    if (grip === 0) return { ...e, at: pairOf(to) };
    return isOnePoint(to, e.at) ? null : { ...e, angle: Math.atan2(to[1] - e.at[1], to[0] - e.at[0]) };
  },
  stretched: (e, holds, by) => (holds(e.at) ? { ...e, at: shifted(e.at, by) } : e),
};
