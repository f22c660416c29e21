import { AREA, type Area } from './area/area.ts';
import { ARC, type TracedArc } from './arc/arc.ts';
import { BOLTS, type Bolts } from './bolts/bolts.ts';
import { COLUMN, type Column } from './column/column.ts';
import { CONSTRUCTION_LINE, type ConstructionLine } from './construction-line/construction-line.ts';
import { DIMENSION, type Dimension } from './dimension/dimension.ts';
import { GRID_LINE, type GridLine } from './grid-line/grid-line.ts';
import type { Kind } from './kind.ts';
import { LINE, type Line } from './line/line.ts';
import type { Member } from './member/axis.ts';
import { MEMBER } from './member/member.ts';
import { OPEN_BOUNDARY, type OpenBoundary } from './open-boundary/open-boundary.ts';
import { PATH, type TracedPath } from './path/path.ts';
import { PLATE, type Plate } from './plate/plate.ts';
import { ROOF, type Roof } from './roof/roof.ts';
import { SLAB, type Slab } from './slab/slab.ts';
import { SPACE, type Space } from './space/space.ts';
import { SPLINE, type Spline } from './spline/spline.ts';
import { STAIR, type Stair } from './stair/stair.ts';
import { SYMBOL, type SymbolMark } from './symbol/symbol.ts';
import { TEXT, type Note } from './text/text.ts';
import { WALL, type Wall } from './wall/wall.ts';

/** What is drawn by itself. */
export type Loose =
  | Wall
  | Line
  | GridLine
  | TracedArc
  | TracedPath
  | Spline
  | Note
  | Dimension
  | Area
  | SymbolMark
  | Space
  | OpenBoundary
  | Slab
  | Column
  | Roof
  | Stair
  | Member
  | Plate
  | Bolts
  | ConstructionLine;

/** The kinds of what is drawn by itself: each must answer everything that a kind is asked. */
export const LOOSE_KINDS = {
  wall: WALL,
  line: LINE,
  gridLine: GRID_LINE,
  arc: ARC,
  path: PATH,
  spline: SPLINE,
  text: TEXT,
  dimension: DIMENSION,
  area: AREA,
  symbol: SYMBOL,
  space: SPACE,
  openBoundary: OPEN_BOUNDARY,
  slab: SLAB,
  column: COLUMN,
  roof: ROOF,
  stair: STAIR,
  member: MEMBER,
  plate: PLATE,
  bolts: BOLTS,
  constructionLine: CONSTRUCTION_LINE,
} as const satisfies { [T in Loose['type']]: Kind<Extract<Loose, { type: T }>> };

/** The kind of an element, to be asked about it. */
export const looseKind = <E extends Loose>(e: E): Kind<E> => LOOSE_KINDS[e.type] as unknown as Kind<E>;
