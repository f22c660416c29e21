/** A wall that a sheet shows, by its middle line. */
export interface SeenWall {
  /** Sheet points, y up. */
  from: [number, number];
  to: [number, number];
  /** Millimetres. */
  thickness: number;
  /** How sure it is, 0 to 1. */
  confidence: number;
  doubts: string[];
  /** Where it is drawn solid, along it, sheet points; null of one that is drawn by its faces. */
  solid: [number, number][] | null;
  /** Of one that is bent: it runs counter-clockwise from its first end to its second. */
  arc: { centre: [number, number]; radius: number; sweep: number } | null;
}

export interface SeenWalls {
  walls: SeenWall[];
  /** The thicknesses that were found, millimetres, the most frequent first. */
  classes: number[];
  /** How much each pen draws walls, 0 to 1 (see penName). */
  pens: ReadonlyMap<string, number>;
}

/** What a person has told of the walls of a sheet. */
export interface Told {
  /** Thicknesses that are none of walls, millimetres. */
  notThick: readonly number[];
  /** Of pens (see penName) whether they draw walls. */
  pens: Readonly<Record<string, boolean>>;
  /** Pens that draw walls as single lines, and how thick these walls are, millimetres. */
  single?: Readonly<Record<string, number>>;
  /** Walls so thick as seen are so thick, millimetres. */
  asThick?: readonly { was: number; is: number }[];
}
