import type { Box, Homography, SheetPoint } from '../../geometry/index.ts';
import type { PictureReading, RecognisedText, StraightSheet } from '../../ink/index.ts';
import type { PageText } from '../../linework/index.ts';
import type { BareUnit } from '../../units/index.ts';
import type { ChainCheck } from './chains.ts';
import type { Rival } from './consensus.ts';
import type { ViewFit } from './fit-view.ts';
import type { BarSpan } from './scale-bar.ts';

/** What a figure measures. An ordinate runs from its datum; a boundary is a length written along the line itself. */
export type DimensionKind = 'linear' | 'diameter' | 'radius' | 'angle' | 'arc' | 'ordinate' | 'boundary';
/** Kinds that are a length between their two points: a scale can rest on them. */
export const isStraight = ({ kind }: { kind: DimensionKind }): boolean => kind !== 'angle' && kind !== 'arc';

/** A part of a page that is drawn at one scale, as its printed dimensions say, or its graphic scale where it has none. Region in sheet points. */
export interface SheetView extends ViewFit {
  region: Box;
  /** True millimetres per paper millimetre. */
  factor: number;
  from: 'dimensions' | 'bar';
  /** What its figures are in; null where two units are as likely, which `rivals` then tell: it must be asked. */
  unit: BareUnit | null;
  rivals: Rival[];
  agreeing: number;
  outliers: number;
  /** 0 to 1. */
  confidence: number;
}

/** A text's base point, its size along and across the base line, and its direction; sheet points, radians counter-clockwise. */
export type FigurePlace = Pick<PageText, 'x' | 'y' | 'width' | 'height' | 'radians'>;

/** A printed measure with the stretch it stands for; `index` is its number among the texts that were given. */
export interface PrintedDimension {
  index: number;
  text: string;
  kind: DimensionKind;
  /** What it says; the length of an arc; 0 for an angle. */
  millimetres: number;
  /** What an angle says. */
  degrees?: number;
  /** What rounding may have taken, millimetres. */
  half: number;
  from: SheetPoint;
  to: SheetPoint;
  /** Where its figure stands. */
  figure: FigurePlace;
  /** The height of an opening, where that stands below its width, millimetres. */
  height?: number;
  /** Underlined: drawn not to scale, so that it neither agrees nor differs. */
  free?: boolean;
  /** Length on the sheet, points. */
  points: number;
  factor: number;
  view: number;
  agrees: boolean;
  /** What the view's scale makes of it, millimetres (degrees for an angle). */
  measured: number;
  recognised: boolean;
}

export interface PrintedNote {
  text: string;
  factor: number;
  view: number | null;
  bar: boolean;
  /** The ends of a graphic scale, where they were found. */ span?: BarSpan | null;
}

/** Figures that stand apart from every view and are too few to tell a scale: a detail of its own. */
export interface UnknownPart {
  region: Box;
  texts: string[];
}

/** A photo at a slant as its printed dimensions measure it. */
export interface PhotoReading {
  /** The view whose dimensions speak for the photo, its unit known; null where none does. What follows is by its scale. */
  view: number | null;
  /** Takes points of the page to millimetres of what is drawn. */
  millimetresFromPage: Homography | null;
  /** True millimetres per millimetre of the straightened sheet. */
  factor: number | null;
  /** The sheet made straight, on which everything was read. */
  straight: StraightSheet;
}

export interface PrintedReading {
  /** The ends of dimensions were found in the pixels of a scan, not among the file's own lines. */
  endsFromInk: boolean;
  views: SheetView[];
  dimensions: PrintedDimension[];
  notes: PrintedNote[];
  chains: ChainCheck[];
  unknown: UnknownPart[];
  /** The page is a photo at a slant: what is told lies on the page as it is, and was measured on the sheet made straight. */
  photo: PhotoReading | null;
  /** Why there is no view. */
  why: string | null;
}

export interface PrintedOptions {
  /** What bare numbers are in; found out where absent. */
  units?: BareUnit | null;
  /** What was recognised from outlines or pixels, beside what the file holds. */
  picture?: PictureReading | null;
  progress?: (share: number) => void;
}

export type PrintedText = PageText & Partial<Pick<RecognisedText, 'clear' | 'confidence'>>;
