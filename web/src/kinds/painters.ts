import type { Loose } from '@calque/core/model';
import type { Painter } from '@/table/painters/painter';
import { AREA_PAINTER } from './area/painter';
import { COLUMN_PAINTER } from './column/painter';
import { DIMENSION_PAINTER } from './dimension/painter';
import { GRID_LINE_PAINTER } from './grid-line/painter';
import { MEMBER_PAINTER } from './member/painter';
import { PLATE_PAINTER } from './plate/painter';
import { SLAB_PAINTER } from './slab/painter';
import { SPACE_PAINTER } from './space/painter';
import { SYMBOL_PAINTER } from './symbol/painter';
import { TEXT_PAINTER } from './text/painter';
import { WALL_PAINTER } from './wall/painter';

/** What is painted by its lines alone. */
const LINES = { strokes: true } as const;

/** How each kind is painted: the compiler refuses a kind that does not say. */
const PAINTERS = {
  wall: WALL_PAINTER,
  line: LINES,
  gridLine: GRID_LINE_PAINTER,
  arc: LINES,
  path: LINES,
  spline: LINES,
  text: TEXT_PAINTER,
  dimension: DIMENSION_PAINTER,
  area: AREA_PAINTER,
  symbol: SYMBOL_PAINTER,
  space: SPACE_PAINTER,
  openBoundary: LINES,
  slab: SLAB_PAINTER,
  column: COLUMN_PAINTER,
  roof: LINES,
  stair: LINES,
  member: MEMBER_PAINTER,
  plate: PLATE_PAINTER,
  bolts: LINES,
  constructionLine: LINES,
} as const satisfies { [T in Loose['type']]: Painter<Extract<Loose, { type: T }>> };

export const painterOf = <E extends Loose>(e: E): Painter<E> => PAINTERS[e.type] as unknown as Painter<E>;
