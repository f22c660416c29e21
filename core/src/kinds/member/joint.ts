/**
 * How an end of a member is made: cut to the face of another, mitred with it, coped round its flanges, on a base plate, with an end plate on
 * a face, on a fin plate at its web, between angle cleats at its web, spliced with one in line, or on a gusset.
 */
export type JointForm =
  'face' | 'mitre' | 'cope' | 'basePlate' | 'endPlate' | 'finPlate' | 'cleat' | 'splice' | 'gusset';
export const JOINT_FORMS: readonly JointForm[] = [
  'face',
  'mitre',
  'cope',
  'basePlate',
  'endPlate',
  'finPlate',
  'cleat',
  'splice',
  'gusset',
];

/** Sizes of a joint that can be typed; millimetres, but for counts. */
export const JOINT_SIZES = [
  'gap',
  'clearance',
  'width',
  'height',
  'thickness',
  'bolt',
  'rows',
  'pitch',
  'gauge',
  'edge',
  'weld',
  'stiffener',
] as const;
export type JointSize = (typeof JOINT_SIZES)[number];

/** More rows of bolts than a joint has. */
export const MOST_ROWS = 50;

export type MemberEndName = 'start' | 'end';
export const MEMBER_ENDS: readonly MemberEndName[] = ['start', 'end'];

/** How one end of a member is made. What follows from it, its cut, plates and bolts, is derived: see @calque/core/framing. */
export interface Joint {
  end: MemberEndName;
  form: JointForm;
  /** The member that it meets there; null for what stands by itself. */
  to: string | null;
  /** What was typed; all else follows from the sections. */
  sizes?: Partial<Record<JointSize, number>> | null;
}

/** A cleat that stands on a member over which another runs, and holds that by its web. */
export interface PurlinCleat {
  /** The member on which it stands. */
  to: string;
  sizes?: Partial<Record<JointSize, number>> | null;
}
/** More cleats than a member runs over. */
export const MOST_CLEATS = 200;

/** What plates are put there by: a joint, or a purlin cleat. */
export type MadeForm = JointForm | 'purlinCleat';

/** What has ends that are made. */
export interface Jointed {
  joints?: Joint[] | null;
}

/** Does a form need another member? */
export const meetsAnother = (form: JointForm): boolean => form !== 'basePlate';

export const jointAt = ({ joints }: Jointed, end: MemberEndName): Joint | null =>
  joints?.find((j) => j.end === end) ?? null;

/** With an end made otherwise; null for cut square. */
export const withJoint = (e: Jointed, end: MemberEndName, joint: Joint | null): Jointed => {
  const others = (e.joints ?? []).filter((j) => j.end !== end),
    next = joint ? [...others, joint].sort((a, b) => (a.end < b.end ? 1 : -1)) : others;
  return { joints: next.length === 0 ? null : next };
};

/** An end of a member whose line was put at a printed level; millimetres. */
export interface MemberLevel {
  end: MemberEndName;
  level: number;
  /** As it is printed. */
  text: string;
  /** The height that the sheet's drawing has there: the print counts. */
  drawn: number;
}

const OTHER_END = { start: 'end', end: 'start' } as const;
export const levelsSwapped = ({ levels }: { levels?: MemberLevel[] | null }) =>
  levels ? { levels: levels.map((l) => ({ ...l, end: OTHER_END[l.end] })) } : {};

export const jointsSwapped = ({ joints }: Jointed): Jointed =>
  joints ? { joints: joints.map((j) => ({ ...j, end: OTHER_END[j.end] })).reverse() } : {};
