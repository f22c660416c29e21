import type { ModelPoint, Point } from '../../geometry/index.ts';
import type { MadeForm, MemberCut, MemberEndName, OutlineRing } from '../../model/index.ts';

/** What is cut out at an end above or below: so deep from the outermost, so far back from the end. */
export interface Notch {
  end: MemberEndName;
  side: 'top' | 'bottom';
  depth: number;
  length: number;
}

/** A hole of a member: through its web (along x) or a flange (along y), at a place of its section and so far along. */
export interface Hole {
  through: 'web' | 'top' | 'bottom';
  x: number;
  y: number;
  z: number;
  d: number;
  /** Thickness of what it goes through. */
  depth: number;
}

/** A member as its joints make it, in its section's coordinates: x and y as the section is drawn, z from its start. */
export interface Shape {
  start: MemberCut;
  end: MemberCut;
  notches: Notch[];
  holes: Hole[];
}

/** A flat plate where it stands: its outline (counter-clockwise) in the axes x and y from its origin, thick towards x cross y. */
export interface PlatePart {
  id: string;
  name: string;
  /** Of the joint that puts it there; null for one that is drawn by itself. */
  form: MadeForm | null;
  /** The member whose joint it is of, or itself; and the member to which it is welded, null for one that is bolted alone. */
  owner: string;
  weldedTo: string | null;
  origin: ModelPoint;
  x: ModelPoint;
  y: ModelPoint;
  outline: Point[];
  holes: { at: Point; d: number }[];
  /** Slots and other openings that are not round, and the outline as it is drawn where that has bends (it is by chords above): both in x and y. */
  slots: OutlineRing[];
  drawn: OutlineRing | null;
  thickness: number;
  material: string;
  /** kg/m3. */
  density: number;
  /** Of a cleat cut from an angle: its section, by which its outline is drawn, and it is thick as it is long; the holes of its legs go across it. */
  angle: { section: string; leg: number; across: { from: ModelPoint; to: ModelPoint; d: number }[] } | null;
  /** Size of its fillet welds and their length, millimetres. */
  weld: { size: number; length: number } | null;
}

/** Bolts of one size and grip: each from under its head along the axis to its nut. */
export interface BoltSet {
  id: string;
  /** The member whose joint they are of, or themselves. */
  owner: string;
  d: number;
  /** "M20 x 65", or "M20, embedded 400" of an anchor. */
  name: string;
  grade: string;
  standard: string;
  grip: number;
  length: number;
  anchor: boolean;
  at: ModelPoint[];
  axis: ModelPoint;
  /** Of one with its nut and washers, kg. */
  mass: number;
}

/** What does not come out at an end of a member, or of a plate or bolts by themselves, in words. */
export interface JointDoubt {
  id: string;
  end: MemberEndName | null;
  words: string;
}
