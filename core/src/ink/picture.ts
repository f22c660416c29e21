import { kindCode, type Linework } from '../linework/index.ts';
import { readInk, type InkDotOnSheet } from './figures/read-ink.ts';
import { recogniseTexts, type RecognisedText, type Recogniser } from './figures/recognise.ts';
import type { InkLine } from './lines/ink-lines.ts';
import type { Raster } from './raster.ts';

/** What recognition found on the picture of a page. `lines` is empty where the file's own lines are to be used. */
export interface PictureReading { texts: RecognisedText[]; lines: InkLine[]; dots: InkDotOnSheet[]; /** How far ink may miss the truth, sheet points. */ slack: number }

/** Figures are recognised well from this resolution on; more pixels than that many take too long. */
const WANTED_DPI = 300, MOST_PIXELS = 36e6;
/** A picture file seldom knows its true size: its longer side is taken to be that of a sheet of A3, millimetres. */
const USUAL_SIDE = 420;

/** Lines of a scan may miss the truth by this, pixels. */
const INK_SLACK = 0.6;
/** A picture that covers this share of a page is what the page shows. */
const COVERING = 0.4;
const MOST_DPI = 600;
/** Fewer things drawn than this are a frame or a stamp, and no figures drawn as outlines. */
const LEAST_DRAWN = 24;

const covering = (l: Linework) => l.pictures.filter((p) => p.area >= COVERING * l.width * l.height).sort((a, b) => b.area - a.area)[0];

/**
 * What of a page is to be read from its picture where its own texts tell no scale: figures and lines of a scan,
 * figures alone where they are drawn as outlines, or nothing.
 */
export function pictureOffers(l: Linework): 'scan' | 'outlines' | null {
  if (covering(l) && l.content !== 'vector') return 'scan';
  return (l.segments.length + l.fillEdges.length) / 4 + l.curves.length / 8 >= LEAST_DRAWN ? 'outlines' : null;
}

/** Pixels per sheet point at which a page is looked at: a scan pixel by pixel, so that nothing is blurred. */
export function rasterScale(l: Linework): number {
  const picture = covering(l);
  const most = Math.sqrt(MOST_PIXELS / (l.width * l.height));
  if (!picture?.pixels) return Math.min(WANTED_DPI / 72, most);
  const [a, b, , d] = picture.corners;
  const own = Math.max(picture.pixels[0] / Math.hypot(b[0] - a[0], b[1] - a[1]), picture.pixels[1] / Math.hypot(d[0] - a[0], d[1] - a[1]));
  return Math.min(own, MOST_DPI / 72, most);
}

/** By how many pixels the height of letters is measured; a picture's own size says nothing of paper. */
export const pixelsPerMillimetre = (raster: Raster, isPicture: boolean): number =>
  isPicture ? Math.max(raster.width, raster.height) / USUAL_SIDE : (raster.scale * 72) / 25.4;

/** Reads texts (`perMillimetre`: see pixelsPerMillimetre), and on scans lines as well, from the picture of a page. */
export async function readPicture(raster: Raster, { lines, perMillimetre, recogniser, progress = () => {} }: { lines: boolean; perMillimetre: number; recogniser: Recogniser; progress?: (share: number) => void }): Promise<PictureReading> {
  const ink = readInk(raster, perMillimetre, (share) => progress(0.4 * share), lines);
  const texts = await recogniseTexts(raster, ink.components, ink.blocks, recogniser, (share) => progress(0.4 + 0.6 * share));
  return { texts, lines: lines ? [...ink.lines, ...ink.marks] : [], dots: lines ? ink.dots : [], slack: lines ? INK_SLACK / raster.scale : 0 };
}

/** A page's linework with the lines that were read from its picture beside its own. */
export function withInkLines(l: Linework, { lines, dots }: Pick<PictureReading, 'lines' | 'dots'>): Linework {
  if (lines.length === 0) return l;
  const n = l.segments.length / 4, more = lines.length;
  const segments = new Float64Array(4 * (n + more));
  segments.set(l.segments);
  lines.forEach(({ from, to }, i) => segments.set([...from, ...to], 4 * (n + i)));
  const longer = <A extends Int32Array | Uint8Array>(array: A, make: (length: number) => A, length: number, value: number): A => {
    const out = make(length).fill(value) as A;
    out.set(array);
    return out;
  };
  const ints = (length: number) => new Int32Array(length), bytes = (length: number) => new Uint8Array(length);
  const circles = new Float64Array(l.circles.length + 3 * dots.length);
  circles.set(l.circles);
  dots.forEach(({ at, r }, i) => circles.set([...at, r], l.circles.length + 3 * i));
  const c = circles.length / 3;
  return {
    ...l, segments, circles,
    circleStyle: longer(l.circleStyle, ints, 2 * c, -1), circleObject: longer(l.circleObject, ints, c, 0), circleKind: longer(l.circleKind, bytes, c, kindCode('curve')),
    segmentStyle: longer(l.segmentStyle, ints, 2 * (n + more), -1), segmentObject: longer(l.segmentObject, ints, n + more, 0),
    segmentKind: longer(l.segmentKind, bytes, n + more, kindCode('line')),
  };
}
