import { boxRing, type Box, type Point, type Transform } from '../geometry/index.ts';
import {
  TRACED_TYPES,
  type GridLine,
  type Line,
  type LineType,
  type Loose,
  type Pair,
  type Placed,
  type Traced,
  type Triple,
  type Wall,
  type WallLayer,
} from '../kinds/index.ts';
import type { PaperName } from '../papers/index.ts';
import type { Feature, Part, Rule } from './parts/part.ts';
import type { UnitSystem } from '../units/index.ts';

/** The one settings entity of a project, with the id 'settings'. */
export interface Settings {
  type: 'settings';
  id: string;
  name: string;
  units: UnitSystem;
  /** See LengthStyle: decimals, or the denominator of the smallest fraction. */
  precision: number;
  /** Absent: none has been set. */
  grid?: DrawingGrid | null;
  /** Where the model's zero lies on a map; absent: nobody has said. */
  onMap?: PlaceOnMap | null;
}

/** A place on a map: in metres of the named reference system; how far the model's x is turned from the map's east, counter-clockwise, radians. */
export interface PlaceOnMap {
  /** Such as "EPSG:25832". */
  system: string;
  east: number;
  north: number;
  /** Of the model's zero level, above the map's. */
  height: number;
  turn: number;
}

/** The grid of the project's planes: where it begins and its spacing each way, millimetres, its turn in radians. */
export interface DrawingGrid {
  origin: Pair;
  angle: number;
  across: number;
  up: number;
  shown: boolean;
}

/** A storey, whose floor is a plane; elevation and height in millimetres. */
export interface Storey {
  type: 'storey';
  id: string;
  name: string;
  elevation: number;
  height: number;
  /** Has a person confirmed the height, or is it the usual one? */
  heightAssumed: boolean;
  /** A grid of its own; absent: the project's. */
  grid?: DrawingGrid | null;
}

/** What an upright plane is for: the building looked at from outside, or cut open; 'face': a side of a part. */
export type PlaneRole = 'elevation' | 'section' | 'face';
export const PLANE_ROLES: readonly PlaneRole[] = ['elevation', 'section', 'face'];

/** A plane that is no storey's floor, drawn on as it is seen square on: its x goes to the right, its y up. */
export interface WorkPlane {
  type: 'plane';
  id: string;
  name: string;
  role: PlaneRole;
  /** Where its x and y begin, and their directions in the model: each of length one, square to one another. */
  origin: Triple;
  across: Triple;
  up: Triple;
  /** What is shown of it in plan and in space, from its origin to the right and upwards, millimetres; it has no end to draw on. */
  width: number;
  height: number;
  /** How far it reaches towards whoever looks at it, and away, millimetres; a side that is absent has no end. */
  depth?: { before?: number | null; behind?: number | null } | null;
  /** The part whose plane it is; absent: it is one of the building. */
  partId?: string | null;
  /** The face of its part on which it lies. */
  face?: string | null;
  /** A grid of its own; absent: the project's. */
  grid?: DrawingGrid | null;
}

/** How an underlay came to its scale; 'own': a drawing that is at true size by its own units. */
export type ScaleState = 'paper' | 'stated' | 'own' | 'calibrated';

/** The known dimension that an underlay was scaled by. Points on the sheet, lengths in millimetres. */
export interface Calibration {
  from: Pair;
  to: Pair;
  trueLength: number;
  /** What the sheet said before. */
  oldLength: number;
  /** trueLength / oldLength */
  factor: number;
  /** As the person typed it. */
  typed: string;
  /** How the placement was fitted, where it was fitted to a set of known dimensions. */
  fit?: CalibrationFit | null;
  /** What the sheet said otherwise when a person took this all the same: never shown as if it were sure. */
  against?: ScaleDoubt | null;
}

/** What speaks against a scale: so many printed dimensions, a graphic scale or a stated one, and the scale that it says. */
export interface ScaleDoubt {
  kind: 'dimensions' | 'bar' | 'note';
  count: number;
  factor: number;
}

/** The fit behind a calibration: how many dimensions it rests on, by which model, and how far off it may be (95 %). */
export interface CalibrationFit {
  model: 'uniform' | 'directional' | 'affine';
  /** What the person chose; 'auto' takes the simplest that the evidence supports. */
  wanted: 'auto' | 'uniform' | 'directional' | 'affine';
  fitted: number;
  /** Error of a length of ten metres, and of a point at the worst corner of the crop, millimetres. */
  tenMetres: number;
  across: number;
}

/** How an underlay is shown, and what of it is switched off. */
export interface SheetLook {
  /** White paper below the ink, or the ink alone. */
  paper: boolean;
  /** Ink that everything is drawn in, 0xRRGGBB; null for the sheet's own colours. */
  tint: number | null;
  /** Drawn by its lines, without fills, pictures and texts. */
  linesOnly: boolean;
  /** Is the edge of the crop drawn? */
  frame: boolean;
  /** In front of the trace. */
  inFront: boolean;
  switches: {
    layers: Record<string, boolean>;
    kinds: SheetKindName[];
    pens: string[];
    authors: string[];
    markupKinds: string[];
  };
}
export type SheetKindName = 'line' | 'curve' | 'hatch' | 'fill' | 'text' | 'dimension' | 'picture' | 'markup';

export const PLAIN_LOOK: SheetLook = {
  paper: true,
  tint: null,
  linesOnly: false,
  frame: true,
  inFront: false,
  switches: { layers: {}, kinds: [], pens: [], authors: [], markupKinds: [] },
};
export const lookOf = (u: Pick<Underlay, 'look'>): SheetLook => u.look ?? PLAIN_LOOK;

/** A sheet laid on a plane. */
export interface Underlay {
  type: 'underlay';
  id: string;
  name: string;
  fileId: string;
  /** 1-based. */
  page: number;
  planeId: string;
  /** The part of the sheet that is laid, sheet points [minX, minY, maxX, maxY]. */
  crop: [number, number, number, number];
  /** A ring within the crop beyond which nothing shows, sheet points; absent for the whole crop. */
  outline?: Pair[] | null;
  /** planeFromSheet: sheet points -> plane millimetres. */
  placement: [number, number, number, number, number, number];
  scaleState: ScaleState;
  calibration: Calibration | null;
  visible: boolean;
  /** 0 shows it as printed, 1 not at all. */
  fade: number;
  locked: boolean;
  snap: boolean;
  /** Higher lies above. */
  order: number;
  /** The page that this one replaced, as the issue before it. */
  former?: { fileId: string; page: number } | null;
  /** Absent: as printed, with everything on. */
  look?: SheetLook | null;
  /** Drawn anew from a photo at a slant: how far off the picks of its corners may have left a place of it (95 %), millimetres. */
  straightened?: { across: number } | null;
}

/** Switches kept under a name, for other sheets of the set. */
export interface SavedLook {
  type: 'look';
  id: string;
  name: string;
  switches: SheetLook['switches'];
}

/** Number and title of a page, as a person corrected what was read from its title block. */
export interface SheetName {
  type: 'sheetName';
  id: string;
  fileId: string;
  page: number;
  number: string;
  title: string;
}

/** A size of one's own that things usually have, for sheets that print none; millimetres, `spread` a standard deviation. */
export interface OwnSize {
  type: 'usualSize';
  id: string;
  name: string;
  millimetres: number;
  spread: number;
}

/** A mark-up's comment that has been dealt with. */
export interface TickedComment {
  type: 'tick';
  id: string;
  fileId: string;
  page: number;
  annotation: number;
}

/** What is known of a length between two points of a sheet. */
export interface KnownDimension {
  id: string;
  from: Pair;
  to: Pair;
  /** The printed length in millimetres. */
  printed: number;
  typed: string;
  /** Does the placement rest on it, or is it held back as a check? Absent: a check. */
  use?: 'fit' | 'check';
  /** How well each pick is known: standard deviations, sheet points. */
  sigma?: Pair;
  /** How well the length is known: standard deviation, millimetres. */
  spread?: number;
  /** Picked by a person, read from the sheet's texts, recognised in its pixels or outlines, or a usual size that is only assumed. */
  origin?: 'picked' | 'read' | 'recognised' | 'assumed';
}

/** A known dimension of an underlay. */
export interface Check extends KnownDimension {
  type: 'check';
  underlayId: string;
}

/** A calibration as it was made, to go back to. */
export interface CalibrationRecord {
  type: 'calibration';
  id: string;
  underlayId: string;
  /** Counts up, per underlay. */
  number: number;
  /** When, as an ISO date and time. */
  at: string;
  /** Who, as they named themselves. */
  by?: string;
  /** What was done, in words. */
  label: string;
  placement: Underlay['placement'];
  scaleState: ScaleState;
  calibration: Calibration | null;
  known: KnownDimension[];
}

/** A traced group under a name, to be placed many times; its elements lie about the point by which it is placed. */
export interface Assembly {
  type: 'assembly';
  id: string;
  name: string;
  elements: Loose[];
  /** While it is being edited, its elements lie among the others as its parts; it will be back where it was placed. */
  open?: { placed: Placed } | null;
  /** Its place on the shelf, where it came from there or was put there. */
  shelfId?: string | null;
}

/** A layer of the trace. */
export interface TraceLayer {
  type: 'layer';
  id: string;
  name: string;
  /** 0xRRGGBB */
  colour: number;
  lineType: LineType;
  /** Of its lines on paper, millimetres. */
  weight: number;
  visible: boolean;
  locked: boolean;
  /** 0 shows it fully, 1 not at all. */
  fade: number;
}

/** What walls are made of: its layers from the first face to the other. */
export interface WallType {
  type: 'wallType';
  id: string;
  name: string;
  layers: WallLayer[];
  /** Its place on the shelf, where it came from there or was put there. */
  shelfId?: string | null;
}

/** A page of a file. */
export interface FilePage {
  fileId: string;
  page: number;
}

/** What stands on a paper: a plane as it has been traced, or a page of a file as it is. */
export interface PaperView {
  /** Among the views of its paper. */
  id: string;
  /** One of the two is there. */
  planeId?: string | null;
  sheet?: FilePage | null;
  /** What of it is shown: plane millimetres, or sheet points of a page; absent: all that has been traced, as far as that goes. */
  window?: [number, number, number, number] | null;
  /** 100 for 1:100; of a page how much smaller it is than its own paper: 1 as it is, 2 for half. */
  scale: number;
  /** The lower left corner of what is shown, from that of the paper, millimetres. */
  at: Pair;
  /** Are the sheets that lie on the plane drawn beneath? */
  beneath: boolean;
  /** Is the building drawn as it is seen from the plane, where that stands upright? */
  building?: boolean | null;
  /** Below it; empty: the plane's name. */
  caption: string;
}

/** A ready drawing: a paper with a title block and what stands on it. */
export interface PaperDrawing {
  type: 'paperDrawing';
  id: string;
  name: string;
  number: string;
  revision: string;
  drawnBy: string;
  paper: PaperName;
  /** Its short side below. */
  standing: boolean;
  views: PaperView[];
}

export type Entity =
  | Settings
  | Storey
  | WorkPlane
  | Underlay
  | Check
  | Traced
  | TraceLayer
  | Assembly
  | SavedLook
  | SheetName
  | TickedComment
  | CalibrationRecord
  | OwnSize
  | WallType
  | PaperDrawing
  | Part
  | Feature
  | Rule;
export type EntityType = Entity['type'];

export const SETTINGS_ID = 'settings';

/** What is drawn on: a storey's floor, or a plane of its own. */
export type PlaneEntity = Storey | WorkPlane;
export const PLANE_TYPES = ['storey', 'plane'] as const satisfies readonly PlaneEntity['type'][];

const TRACED: ReadonlySet<string> = new Set(TRACED_TYPES);
export const isTraced = (e: Entity): e is Traced => TRACED.has(e.type);
/** An element that is a straight line from one point to another. */
export const isStraightElement = (e: Traced): e is Wall | Line | GridLine =>
  e.type === 'wall' || e.type === 'line' || e.type === 'gridLine';

/** The ring of what is laid of a sheet, in sheet points. */
export const cropRingOf = (u: Pick<Underlay, 'crop' | 'outline'>): readonly Point[] =>
  u.outline ?? boxRing(u.crop);

export const asBox = (crop: Underlay['crop']): Box => crop;
export const asTransform = (placement: Underlay['placement']): Transform => placement;
/** A readonly transform as the mutable tuple that entities are stored with. */
export const storedTransform = (t: Transform): Underlay['placement'] => [...t];
