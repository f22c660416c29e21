import type * as yup from 'yup';
import { AREA_SCHEMA } from './area/schema.ts';
import { ARC_SCHEMA } from './arc/schema.ts';
import { BOLTS_SCHEMA } from './bolts/schema.ts';
import { COLUMN_SCHEMA } from './column/schema.ts';
import { CONSTRUCTION_LINE_SCHEMA } from './construction-line/schema.ts';
import { DIMENSION_SCHEMA } from './dimension/schema.ts';
import { GRID_LINE_SCHEMA } from './grid-line/schema.ts';
import type { Traced } from './index.ts';
import { LINE_SCHEMA } from './line/schema.ts';
import { MEMBER_SCHEMA } from './member/schema.ts';
import { OPEN_BOUNDARY_SCHEMA } from './open-boundary/schema.ts';
import { PATH_SCHEMA } from './path/schema.ts';
import { PLACED_SCHEMA } from './placed/schema.ts';
import { PLATE_SCHEMA } from './plate/schema.ts';
import { SLAB_SCHEMA } from './slab/schema.ts';
import { ROOF_SCHEMA } from './roof/schema.ts';
import { SPACE_SCHEMA } from './space/schema.ts';
import { SPLINE_SCHEMA } from './spline/schema.ts';
import { STAIR_SCHEMA } from './stair/schema.ts';
import { SYMBOL_SCHEMA } from './symbol/schema.ts';
import { TEXT_SCHEMA } from './text/schema.ts';
import { WALL_SCHEMA } from './wall/schema.ts';

/** The schema of each kind of traced element, without its type: see ENTITY_SCHEMAS. */
export const TRACED_SCHEMAS = {
  wall: WALL_SCHEMA,
  line: LINE_SCHEMA,
  gridLine: GRID_LINE_SCHEMA,
  arc: ARC_SCHEMA,
  path: PATH_SCHEMA,
  spline: SPLINE_SCHEMA,
  text: TEXT_SCHEMA,
  dimension: DIMENSION_SCHEMA,
  area: AREA_SCHEMA,
  symbol: SYMBOL_SCHEMA,
  space: SPACE_SCHEMA,
  openBoundary: OPEN_BOUNDARY_SCHEMA,
  slab: SLAB_SCHEMA,
  column: COLUMN_SCHEMA,
  roof: ROOF_SCHEMA,
  stair: STAIR_SCHEMA,
  member: MEMBER_SCHEMA,
  plate: PLATE_SCHEMA,
  bolts: BOLTS_SCHEMA,
  constructionLine: CONSTRUCTION_LINE_SCHEMA,
  placed: PLACED_SCHEMA,
} as const satisfies Record<Traced['type'], yup.AnyObjectSchema>;
