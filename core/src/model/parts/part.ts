import type { Pair, Triple } from '../../kinds/index.ts';

/** By which way a part is made; what is checked on it follows from that. */
export const WAYS_OF_MAKING = ['milling', 'turning', 'drilling', 'cutting', 'bending'] as const;
export type WayOfMaking = (typeof WAYS_OF_MAKING)[number];

/** A part of a product: what its features are made on. Its planes and features name it. */
export interface Part {
  type: 'part';
  id: string;
  name: string;
  material: string;
  /** kg/m3. */
  density: number;
  /** 0xRRGGBB; absent: that of its material. */
  colour?: number | null;
  way: WayOfMaking;
  /** How many are made. */
  pieces: number;
  /** Limits that a person has set, by their names (see @calque/core/part); others are the usual ones. */
  limits?: Record<string, number> | null;
  /** A person's own rates, by their names. */
  rates?: Record<string, number> | null;
}

/** Curves of a plane that bound what a feature is made of, by their ids. */
export interface Profile {
  planeId: string;
  curves: string[];
}

/**
 * A face of a part: the feature that made it and what it is of that, such as "id/end" or "id/side:curve". It is the same face whatever
 * figures change.
 */
export type FaceName = string;

/** An edge: the two faces that it lies between, and a place near it where they meet in several; null: all of these. */
export interface EdgeName {
  between: [FaceName, FaceName];
  near: Triple | null;
}

/** How far a profile goes: so deep (to one side or half to each), through all, or up to a face. */
export type Reach =
  { kind: 'depth'; depth: number; both: boolean } | { kind: 'through' } | { kind: 'face'; face: FaceName };

/** What a solid does to what is there: it is added, taken away, or what both have stays. */
export const DOINGS = ['add', 'cut', 'common'] as const;
export type Doing = (typeof DOINGS)[number];

export interface Extrude {
  kind: 'extrude';
  profile: Profile;
  does: Doing;
  reach: Reach;
  /** Against the way its plane faces. */
  back: boolean;
  /** Its sides lean inwards by so much as it goes, radians; outwards where negative. */
  draft: number;
}
export interface Revolve {
  kind: 'revolve';
  profile: Profile;
  does: Doing;
  /** A straight line of the plane. */
  axis: string;
  /** Radians, counter-clockwise seen against the axis; a full turn at most. */
  angle: number;
}

/** How a hole begins: with a wider cylinder, or with a cone, where it enters. */
export type HoleHead =
  | { kind: 'counterbore'; diameter: number; depth: number }
  | { kind: 'countersink'; diameter: number; angle: number };
export interface Hole {
  kind: 'hole';
  planeId: string;
  /** Free places on the plane. */
  at: Pair[];
  /** Circles, arcs and points of the plane's linework in whose centres others are. */
  centres: string[];
  diameter: number;
  /** To its shoulder; null: through all. */
  depth: number | null;
  /** Of its pointed end, radians; null: flat. */
  tip: number | null;
  head: HoleHead | null;
  /** Designation by the standard, and how deep it is cut; a null depth: as deep as the hole. */
  thread: { name: string; depth: number | null } | null;
  back: boolean;
  /** What said so, as it stands on the sheet; empty: nobody's text. */
  said: string;
}
/** A slot with round ends. */
export interface Slot {
  kind: 'slot';
  planeId: string;
  at: Pair[];
  /** Over all. */
  length: number;
  width: number;
  angle: number;
  /** null: through all. */
  depth: number | null;
  back: boolean;
}

/** Features again at other places. */
export type PatternForm =
  | { kind: 'row'; planeId: string; step: Pair; count: number; second: { step: Pair; count: number } | null }
  | { kind: 'circle'; planeId: string; centre: Pair; count: number; angle: number }
  | { kind: 'points'; planeId: string; from: Pair; at: Pair[] };
export interface Pattern {
  kind: 'pattern';
  /** Features that add or take away. */
  of: string[];
  form: PatternForm;
}
export interface Mirror {
  kind: 'mirror';
  /** None: all that is there. */
  of: string[];
  planeId: string;
  /** A line of the plane, through which the mirror stands square to it; null: the plane itself. */
  line: { from: Pair; to: Pair } | null;
}

export interface Round {
  kind: 'round';
  edges: EdgeName[];
  radius: number;
}
export interface Chamfer {
  kind: 'chamfer';
  edges: EdgeName[];
  distance: number;
}
/** Hollow, with walls so thick, open where these faces were. */
export interface Shell {
  kind: 'shell';
  open: FaceName[];
  thickness: number;
}
/** A wall that fills from an open chain of curves to what is there. */
export interface Rib {
  kind: 'rib';
  profile: Profile;
  thickness: number;
  /** To the right of the way the chain is drawn. */
  right: boolean;
}

/** The solid of a file that is attached to the project: see `fileId` of its feature. */
export interface Given {
  kind: 'given';
  does: Doing;
}

export type FeatureForm =
  Given | Extrude | Revolve | Hole | Slot | Pattern | Mirror | Round | Chamfer | Shell | Rib;
export type FeatureKind = FeatureForm['kind'];

/** A step by which a part is made. */
export interface Feature {
  type: 'feature';
  id: string;
  partId: string;
  /** Lower ones are made before. */
  order: number;
  /** Empty: it is called by what it is. */
  name: string;
  /** Left out. */
  off: boolean;
  /** The attached file whose solid it takes; of that form alone. */
  fileId?: string | null;
  form: FeatureForm;
}

/** A part of the linework of a plane: one of its grips, or a curve as a whole. */
export interface RulePlace {
  id: string;
  grip: number | null;
}

/** Rules without a figure, and those with one; see @calque/core/part. */
export const RELATIONS = [
  'together',
  'level',
  'upright',
  'parallel',
  'square',
  'touching',
  'equal',
  'concentric',
  'middle',
  'on',
  'symmetric',
  'fixed',
] as const;
export const DRIVING = ['length', 'across', 'up', 'gap', 'angle', 'radius', 'diameter'] as const;
export type RelationKind = (typeof RELATIONS)[number];
export type DrivingKind = (typeof DRIVING)[number];

/** A printed figure from which a driving one was taken. */
export interface PrintedSource {
  underlayId: string;
  /** As it stands there. */
  text: string;
  /** Its middle, sheet points. */
  at: Pair;
}

/** What holds between the linework of a plane. */
export interface Rule {
  type: 'rule';
  id: string;
  planeId: string;
  kind: RelationKind | DrivingKind;
  of: RulePlace[];
  /** Millimetres or radians; null for what has no figure. */
  value: number | null;
  /** How far it may be off upwards and downwards, millimetres or radians. */
  tolerance?: { plus: number; minus: number } | null;
  /** Where its figure stands on the plane; absent: beside what it measures. */
  figureAt?: Pair | null;
  printed?: PrintedSource | null;
}
