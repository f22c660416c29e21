import type { ComponentType } from 'react';
import type { Traced } from '@calque/core/model';
import type { Declared } from '@/commands/command';
import { ARC_FACE } from './arc';
import { AREA_FACE } from './area';
import { BOLTS_FACE } from './bolts';
import { COLUMN_FACE } from './column';
import { CONSTRUCTION_LINE_FACE } from './construction-line';
import { DIMENSION_FACE } from './dimension';
import type { Face } from './face';
import { GRID_LINE_FACE } from './grid-line';
import { LINE_FACE } from './line';
import { MEMBER_FACE } from './member';
import { OPEN_BOUNDARY_FACE } from './open-boundary';
import { PATH_FACE } from './path';
import { PLACED_FACE } from './placed';
import { PLATE_FACE } from './plate';
import { ROOF_FACE } from './roof';
import { SLAB_FACE } from './slab';
import { SPACE_FACE } from './space';
import { SPLINE_FACE } from './spline';
import { STAIR_FACE } from './stair';
import { SYMBOL_FACE } from './symbol';
import { TEXT_FACE } from './text';
import { WALL_FACE } from './wall';

/** The one table of what the page knows of kinds, in the order in which their tools are offered: the compiler refuses a kind that is not in it. */
const FACES = {
  wall: WALL_FACE,
  space: SPACE_FACE,
  openBoundary: OPEN_BOUNDARY_FACE,
  slab: SLAB_FACE,
  column: COLUMN_FACE,
  roof: ROOF_FACE,
  stair: STAIR_FACE,
  member: MEMBER_FACE,
  plate: PLATE_FACE,
  bolts: BOLTS_FACE,
  line: LINE_FACE,
  path: PATH_FACE,
  arc: ARC_FACE,
  spline: SPLINE_FACE,
  text: TEXT_FACE,
  constructionLine: CONSTRUCTION_LINE_FACE,
  dimension: DIMENSION_FACE,
  gridLine: GRID_LINE_FACE,
  area: AREA_FACE,
  symbol: SYMBOL_FACE,
  placed: PLACED_FACE,
} as const satisfies { [T in Traced['type']]: Face<Extract<Traced, { type: T }>> };

export const KIND_COMMANDS: readonly Declared[] = Object.values(FACES).map((f) => f.commands);

/** What the card shows for those selected of a kind. */
export const fieldsOf = (type: Traced['type']) =>
  FACES[type].Fields as ComponentType<{ chosen: readonly Traced[] }> | null;

/** Kinds in the order in which they are offered. */
export const KINDS_IN_ORDER = Object.keys(FACES) as readonly Traced['type'][];
