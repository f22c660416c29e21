import type { Point } from '../geometry/index.ts';

/** All that a sheet to scale is seen to show; places in sheet points, y up, lengths in millimetres. */
export interface Proposals {
  walls: ProposedWall[];
  /** The thicknesses of walls that were found, the most frequent first. */
  classes: number[];
  /** The pens that draw walls, the one that most does first. */
  pens: WallPen[];
  /** The pens that draw straight lines, the one that draws most first; how much each draws of what that draws. */
  lines: WallPen[];
  openings: ProposedOpening[];
  rooms: ProposedRoom[];
  columns: ProposedColumn[];
  grid: ProposedGridLine[];
  stairs: ProposedStair[];
  north: ProposedNorth | null;
  members: ProposedMember[];
  levels: ProposedLevel[];
}

/** A pen that draws walls. */
export interface WallPen {
  /** See penName. */
  name: string;
  /** Sheet points; 0 of the edges of fills. */
  width: number;
  colour: number;
  /** Empty where it draws on none. */
  layer: string;
  /** How much it draws walls, 0 to 1 of the one that most does. */
  draws: number;
}

/** What others need to know of a wall. */
export type WallThere = Pick<ProposedWall, 'from' | 'to' | 'thickness' | 'arc' | 'confidence'>;

/** A wall by its middle line, from junction to junction or end to end. */
export interface ProposedWall {
  from: [number, number];
  to: [number, number];
  thickness: number;
  /** Of one that is bent: it runs counter-clockwise from its first end to its second; radius in sheet points, sweep in radians. */
  arc: { centre: [number, number]; radius: number; sweep: number } | null;
  /** Is one of its sides the outside of the building? Null where that cannot be told. */
  outer: boolean | null;
  /** How sure it is, 0 to 1. */
  confidence: number;
  /** What speaks against it, where it is doubtful; empty: nothing. */
  doubts: string[];
}

export interface ProposedOpening {
  kind: 'door' | 'window' | 'gap';
  /** Its middle, on the middle line of its wall. */
  at: [number, number];
  width: number;
  /** Number of its wall. */
  wall: number;
  /** Where its edges lie along the wall, from its first end, millimetres. */
  from: number;
  to: number;
  leaves: 0 | 1 | 2;
  folds: boolean;
  /** Seen along the wall; see WallOpening. */
  hung: 'from' | 'to';
  opens: 'left' | 'right';
  /** Where its leaf hangs, and which way that turns from shut to open; null where no swing is seen. */
  swing: { hinge: [number, number]; clockwise: boolean } | null;
  tag: string | null;
  /** As is written beside it, or says the schedule of the sheet by its tag: its own height, and how high its sill lies, millimetres. */
  height: number | null;
  sill: number | null;
  /** As that schedule says. */
  type: string | null;
  material: string | null;
  confidence: number;
}

export interface ProposedRoom {
  name: string;
  number: string;
  /** By the inside faces of its walls, counter-clockwise. */
  outline: Point[];
  /** Square metres. */
  area: number;
  /** As the sheet prints it, square metres. */
  printed: number | null;
  /** Numbers of the walls that enclose it. */
  walls: number[];
  confidence: number;
}

export interface ProposedColumn {
  at: [number, number];
  /** Along its own first direction, and across; of a round one both its diameter. */
  width: number;
  depth: number;
  /** Of its first direction, radians from 0 to below a quarter turn. */
  turn: number;
  round: boolean;
  confidence: number;
}

export interface ProposedGridLine {
  name: string;
  from: [number, number];
  to: [number, number];
  confidence: number;
}

/** Where north is: the middle of its arrow, the way in which that points (radians), and how long it is, sheet points. */
export interface ProposedNorth {
  at: [number, number];
  direction: number;
  size: number;
}

/** A straight flight of a stair, from the middle of its first riser to that of its last, up where the sheet says which way that is. */
export interface ProposedStair {
  from: [number, number];
  to: [number, number];
  /** Both ends counted. */
  risers: number;
  /** Millimetres. */
  width: number;
  confidence: number;
}

/** A member of a frame by its axis, with what is written along it. */
export interface ProposedMember {
  from: [number, number];
  to: [number, number];
  mark: string;
  confidence: number;
}

/** A level as an elevation or a section prints it. */
export interface ProposedLevel {
  at: [number, number];
  figure: string;
  millimetres: number;
}
