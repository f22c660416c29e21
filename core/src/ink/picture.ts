import {
  applyHomography,
  composeHomographies,
  invertHomography,
  MM_PER_POINT,
  type Homography,
} from '../geometry/index.ts';
import { kindCode, STRIDE, type Linework } from '../linework/index.ts';
import { readInk, type InkDotOnSheet } from './figures/read-ink.ts';
import { recogniseTexts, type Recogniser } from './figures/recognise.ts';
import type { RecognisedText } from './figures/recognised-text.ts';
import { directionsOf, type Stroke } from './lines/directions.ts';
import type { InkLine } from './lines/ink-lines.ts';
import { firstLook, photoPlane, type FirstLook } from './photo/photo-plane.ts';
import { sheetAlone, straightRaster } from './photo/straight-raster.ts';
import type { Raster } from './raster.ts';

/** What recognition found on the picture of a page. `lines` is empty where the file's own lines are to be used. */
export interface PictureReading {
  texts: RecognisedText[];
  lines: InkLine[];
  dots: InkDotOnSheet[];
  /** How far ink may miss the truth, sheet points. */
  slack: number;
  /** A photo at a slant was straightened first: all places are points of the straightened sheet. */
  straight: StraightSheet | null;
}

/** A photo made straight, in points (y up) of a sheet as large as drawings usually are. */
export interface StraightSheet {
  width: number;
  height: number;
  /** Takes its points to points of the page. */
  pageFromStraight: Homography;
  /** How far a place may be off by the straightening (a standard deviation), points of the straightened sheet. */
  sigma: number;
  /** Size of the straightened picture, pixels. */
  pixels: [number, number];
  /** Pixels of the photo to a point of its page, as it was looked at. */
  photoScale: number;
}

/** Figures are recognised well from this resolution on; more pixels than that many take too long. */
const WANTED_DPI = 300,
  MOST_PIXELS = 36e6;
/** A picture file seldom knows its true size: its longer side is taken to be that of a sheet of A3, millimetres. */
const USUAL_SIDE = 420;

/** Lines of a scan may miss the truth by this, pixels, and those of a photo made straight. */
const INK_SLACK = 0.6,
  PHOTO_SLACK = 1;
/** A picture that covers this share of a page is what the page shows. */
const COVERING = 0.4;
const MOST_DPI = 600;
/** Letters drawn as outlines are fills or strokes of so many pieces at least, no higher than this across their row, sheet points; a few are a stamp. */
const LEAST_PIECES = 5,
  HIGHEST_LETTER = 24,
  LEAST_LETTERS = 8;
/** Letters drawn by single strokes: so many, no longer than a letter is high. */
const LONGEST_STROKE = 10,
  LEAST_STROKES = 60;

const covering = (l: Linework) =>
  l.pictures.filter((p) => p.area >= COVERING * l.width * l.height).sort((a, b) => b.area - a.area)[0];

/**
 * What of a page is to be read from its picture where its own texts tell no scale: figures and lines of a scan,
 * figures alone where they are drawn as outlines, or nothing.
 */
export function pictureOffers(l: Linework): 'scan' | 'outlines' | null {
  if (covering(l) && l.content !== 'vector') return 'scan';
  return hasDrawnLetters(l) ? 'outlines' : null;
}

/** Could any figures be drawn as outlines? A page whose words are texts has nothing that looks like letters beside them. */
function hasDrawnLetters(l: Linework): boolean {
  const boxes = new Map<number, { x0: number; y0: number; x1: number; y1: number; pieces: number }>();
  let strokes = 0;
  const take = (points: Float64Array, objects: Int32Array, stride: number) =>
    objects.forEach((object, i) => {
      const b = boxes.get(object) ?? { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity, pieces: 0 };
      for (let k = stride * i; k < stride * (i + 1); k += 2) {
        b.x0 = Math.min(b.x0, points[k]);
        b.x1 = Math.max(b.x1, points[k]);
        b.y0 = Math.min(b.y0, points[k + 1]);
        b.y1 = Math.max(b.y1, points[k + 1]);
      }
      b.pieces++;
      boxes.set(object, b);
    });
  take(l.segments, l.segmentObject, STRIDE.segments);
  take(l.fillEdges, l.fillEdgeObject, STRIDE.fillEdges);
  take(l.curves, l.curveObject, STRIDE.curves);
  for (let i = 0; i < l.segments.length; i += STRIDE.segments)
    if (Math.hypot(l.segments[i + 2] - l.segments[i], l.segments[i + 3] - l.segments[i + 1]) < LONGEST_STROKE)
      strokes++;
  let letters = 0;
  for (const b of boxes.values())
    if (b.pieces >= LEAST_PIECES && Math.min(b.x1 - b.x0, b.y1 - b.y0) <= HIGHEST_LETTER) letters++;
  return letters >= LEAST_LETTERS || strokes >= LEAST_STROKES;
}

/** Pixels per sheet point at which a page is looked at: a scan pixel by pixel, so that nothing is blurred. */
export function rasterScale(l: Linework): number {
  const picture = covering(l);
  const most = Math.sqrt(MOST_PIXELS / (l.width * l.height));
  if (!picture?.pixels) return Math.min(WANTED_DPI / 72, most);
  const [a, b, , d] = picture.corners;
  const own = Math.max(
    picture.pixels[0] / Math.hypot(b[0] - a[0], b[1] - a[1]),
    picture.pixels[1] / Math.hypot(d[0] - a[0], d[1] - a[1]),
  );
  return Math.min(own, MOST_DPI / 72, most);
}

/** By how many pixels the height of letters is measured; a picture's own size says nothing of paper. */
export const pixelsPerMillimetre = (raster: Raster, isPicture: boolean): number =>
  isPicture ? Math.max(raster.width, raster.height) / USUAL_SIDE : (raster.scale * 72) / 25.4;

/** Reads texts (`perMillimetre`: see pixelsPerMillimetre), and on scans lines as well, from the picture of a page. */
export async function readPicture(
  raster: Raster,
  {
    lines,
    perMillimetre,
    recogniser,
    progress = () => {},
  }: { lines: boolean; perMillimetre: number; recogniser: Recogniser; progress?: (share: number) => void },
): Promise<PictureReading> {
  const look = lines ? firstLook(raster) : null;
  progress(0.1);
  const photo = look && straightened(raster, look),
    seen = photo?.raster ?? (look?.outline ? sheetAlone(raster, look.outline) : raster);
  progress(0.15);
  const directions = directionsOf(photo ? look.strokes.map(photo.seen) : (look?.strokes ?? []));
  const ink = readInk(
    seen,
    { perMillimetre: photo ? pixelsPerMillimetre(seen, true) : perMillimetre, marks: lines, directions },
    (share) => progress(0.15 + 0.25 * share),
  );
  const texts = await recogniseTexts(seen, ink.components, ink.blocks, recogniser, (share) =>
    progress(0.4 + 0.6 * share),
  );
  return {
    texts,
    lines: lines ? [...ink.lines, ...ink.marks] : [],
    dots: lines ? ink.dots : [],
    slack: lines ? (photo ? PHOTO_SLACK : INK_SLACK) / seen.scale : 0,
    straight: photo?.sheet ?? null,
  };
}

/** A photo at a slant as it is seen straight on. */
function straightened(
  raster: Raster,
  look: FirstLook,
): { raster: Raster; sheet: StraightSheet; seen(stroke: Stroke): Stroke } | null {
  const plane = photoPlane(raster, look);
  if (!plane) return null;
  const scale = Math.max(plane.width, plane.height) / (USUAL_SIDE / MM_PER_POINT);
  const back = invertHomography(plane.photoFromPicture);
  const toPixel: Homography = [scale, 0, 0, 0, -scale, plane.height, 0, 0, 1],
    toPage: Homography = [
      1 / raster.scale,
      0,
      0,
      0,
      -1 / raster.scale,
      raster.height / raster.scale,
      0,
      0,
      1,
    ];
  return {
    raster: straightRaster(raster, plane, scale),
    seen: ({ a, b }) => ({ a: applyHomography(back, a), b: applyHomography(back, b) }),
    sheet: {
      width: plane.width / scale,
      height: plane.height / scale,
      pageFromStraight: composeHomographies(toPage, composeHomographies(plane.photoFromPicture, toPixel)),
      sigma: plane.sigma / scale,
      pixels: [plane.width, plane.height],
      photoScale: raster.scale,
    },
  };
}

/** Lines read from ink stray by so many times what a point of theirs does: where they end, and where they cross others. */
const INK_STRAYS = 4.6;
/** How far lines that were read from a picture may lie from where they are meant, sheet points. */
export const inkSlack = ({ slack }: Pick<PictureReading, 'slack'>): number => INK_STRAYS * slack;

/** Widths of ink lines within this of one another are of one pen, sheet points. */
const ONE_PEN = 0.4;

/**
 * A page's linework with the lines that were read from its picture beside its own; where it is asked for, with pens by how wide these lines are: a scan tells
 * no others.
 */
export function withInkLines(
  l: Linework,
  { lines, dots }: Pick<PictureReading, 'lines' | 'dots'>,
  { pens: byWidth = false } = {},
): Linework {
  if (lines.length === 0) return l;
  const n = l.segments.length / 4,
    more = lines.length;
  const segments = new Float64Array(4 * (n + more));
  segments.set(l.segments);
  lines.forEach(({ from, to }, i) => segments.set([...from, ...to], 4 * (n + i)));
  const longer = <A extends Int32Array | Uint8Array>(
    array: A,
    make: (length: number) => A,
    length: number,
    value: number,
  ): A => {
    const out = make(length).fill(value) as A;
    out.set(array);
    return out;
  };
  const ints = (length: number) => new Int32Array(length),
    bytes = (length: number) => new Uint8Array(length);
  const circles = new Float64Array(l.circles.length + 3 * dots.length);
  circles.set(l.circles);
  dots.forEach(({ at, r }, i) => circles.set([...at, r], l.circles.length + 3 * i));
  const c = circles.length / 3;
  const segmentStyle = longer(l.segmentStyle, ints, 2 * (n + more), -1),
    pens = [...l.pens];
  if (byWidth) {
    const numbers = new Map<number, number>();
    lines.forEach(({ width }, i) => {
      const step = Math.round(width / ONE_PEN),
        known = numbers.get(step),
        pen = known ?? pens.push({ width: step * ONE_PEN, colour: 0, dash: [] }) - 1;
      numbers.set(step, pen);
      segmentStyle[2 * (n + i) + 1] = pen;
    });
  }
  return {
    ...l,
    pens,
    segments,
    circles,
    circleStyle: longer(l.circleStyle, ints, 2 * c, -1),
    circleObject: longer(l.circleObject, ints, c, 0),
    circleKind: longer(l.circleKind, bytes, c, kindCode('curve')),
    segmentStyle,
    segmentObject: longer(l.segmentObject, ints, n + more, 0),
    segmentKind: longer(l.segmentKind, bytes, n + more, kindCode('line')),
  };
}
