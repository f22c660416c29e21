import type { Line4 } from '../geometry/index.ts';

/** Straight lines of elements, in millimetres of their plane. */
export interface TracedLines {
  /** x0, y0, x1, y1 each. */
  lines: Float64Array;
  /** For each line the number of its element. */
  of: Int32Array;
  /** 0: one of its lines. 1 or 2: one of two ways in which a sheet may draw it; the way counts that lies there. 3: of a wall. */
  ways: Uint8Array;
  elements: string[];
  /** Lines of what is not graded here, as traced from another sheet: a wall that it traces is not missing. */
  others: Float64Array;
  /** There is more than can be graded at once. */
  isCut: boolean;
}

/** A part of a line with the distance to what lies beside it, which changes evenly from one end to the other. */
export interface Stretch {
  /** Along the line, millimetres from its first end. */
  from: number;
  to: number;
  /** Distances at both ends, millimetres; both null where nothing lies beside it within reach. */
  near: readonly [number, number] | null;
}

/** A line and how far it lies from what it is held against, over all of its length. */
export interface GradedLine {
  line: Line4;
  stretches: Stretch[];
}

/** A line of the sheet that is the face of a wall which is seen there. */
export interface SheetFace extends GradedLine {
  /** Number of the wall. */
  wall: number;
}

/** A wall that a sheet shows and of which little is traced; its middle line on the plane. */
export interface UntracedWall {
  from: readonly [number, number];
  to: readonly [number, number];
  thickness: number;
  /** Of its faces so much has nothing beside it, millimetres, of so much that the sheet draws. */
  free: number;
  drawn: number;
  /** Is it sure to be a wall? */
  isSure: boolean;
}

/** A trace held against the sheet that it was traced from. */
export interface TraceGrade {
  /** Lines of elements against the sheet's ink. */
  traced: (GradedLine & { element: string })[];
  /** Faces of walls that the sheet shows, against the trace. */
  faces: SheetFace[];
  untraced: UntracedWall[];
  /** What lies farther from one another than this is not held against one another, millimetres. */
  reach: number;
}
