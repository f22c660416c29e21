import {
  applyHomography,
  composeHomographies,
  depthAt,
  invertHomography,
  type Homography,
  type Point,
} from '../../geometry/index.ts';
import { IN_SHADOW, inkMask } from '../ink-mask.ts';
import type { Stroke } from '../lines/directions.ts';
import { framedInk, straightLines } from '../lines/ink-lines.ts';
import type { Raster } from '../raster.ts';
import { explained, rightAngles, type RightAngles } from './right-angles.ts';
import { sheetOutline } from './sheet-outline.ts';
import { halfOf, type PhotoPlane } from './straight-raster.ts';

/** Telephones' focal lengths as a share of the photo's longer side, and how sure that is (standard deviation of its logarithm). */
const USUAL_FOCAL = 0.76,
  FOCAL_SPREAD = 0.2;
/** Lines shorter than this share of the photo's longer side say little of its perspective. */
const LEAST_LINE = 0.02;
/** A picture whose corners move by less than this share of its longer side, or by less than so many standard deviations, is no photo at a slant. */
const LEAST_BEND = 0.004,
  SURELY = 6;
/** A drawing's lines run mostly in its two directions; and where as many would if it were flat, it is. */
const LEAST_SEEN = 0.35,
  MOST_FLAT = 0.75;
/** A perspective that may move a corner by more than this share of the longer side is not known. */
const MOST_SIGMA = 0.002;
/** The straightened picture is as fine as the photo is in its middle, up to so many pixels. */
const MOST_PIXELS = 24e6;
/** Beyond this share of the middle's depth the picture is too coarse to be of use. */
const SHALLOWEST = 0.25;

/** What a picture shows at half its size: where the sheet lies on it, and its straight lines, pixels of the whole. */
export interface FirstLook {
  outline: Point[] | null;
  strokes: Stroke[];
}

export function firstLook(raster: Raster): FirstLook {
  const outline = sheetOutline(raster),
    half = halfOf(raster, outline),
    longer = Math.max(raster.width, raster.height);
  const lines = straightLines(
    half,
    framedInk(inkMask(half, IN_SHADOW), half),
    () => {},
    (LEAST_LINE * longer) / 2,
  );
  const strokes = lines.map((l): Stroke => {
    const [a, b] = [l.from, l.to].map((t): Point => [2 * (l.x + t * l.ux), 2 * (l.y + t * l.uy)]);
    return { a, b };
  });
  return { outline, strokes };
}

/** Finds the plane of the sheet on a photo by the right angles of what is drawn; null where it is seen straight on, or shows too few lines to tell. */
export function photoPlane(raster: Raster, { outline, strokes }: FirstLook): PhotoPlane | null {
  const { width, height } = raster,
    longer = Math.max(width, height),
    centred = ([x, y]: Point): Point => [x - width / 2, y - height / 2];
  const lines = strokes.map(({ a, b }) => ({ a: centred(a), b: centred(b) })),
    found = rightAngles(lines, [width / 2, height / 2]);
  if (!found) return null;
  const { seen, flat } = explained(lines, found),
    all = lines.reduce((sum, { a, b }) => sum + Math.hypot(b[0] - a[0], b[1] - a[1]), 0);
  if (found.sigma > MOST_SIGMA * longer || seen < LEAST_SEEN * all || flat > MOST_FLAT * seen) return null;
  const corners = outline ?? [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  const fromMiddle = corners.map(centred);
  if (fromMiddle.some((p) => depthAt(found.squared, p) < SHALLOWEST)) return null;
  // A flat scan shows no perspective, nor does a photo taken square from above.
  const bend = Math.max(
    ...fromMiddle.map((p) => Math.abs(1 / depthAt(found.squared, p) - 1) * Math.hypot(...p)),
  );
  if (bend < Math.max(LEAST_BEND * longer, SURELY * found.sigma)) return null;
  return pictureOf(found, fromMiddle, raster, outline);
}

/** The straightened picture of what the corners enclose, with its width against its height as the perspective and a telephone's lens tell it. */
function pictureOf(
  found: RightAngles,
  corners: readonly Point[],
  { width, height }: Raster,
  outline: Point[] | null,
): PhotoPlane {
  const [kx, ky] = proportions(found, Math.max(width, height));
  const truth = composeHomographies([kx, 0, 0, 0, ky, 0, 0, 0, 1], found.squared);
  const at = corners.map((p) => applyHomography(truth, p)),
    xs = at.map((p) => p[0]),
    ys = at.map((p) => p[1]);
  const [x0, y0, x1, y1] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  // As fine as the photo is where it is finest.
  const finest = Math.max(1, ...corners.map((p) => depthAt(found.squared, p)));
  const step = Math.max(1 / finest, Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_PIXELS));
  const place: Homography = [step, 0, x0, 0, step, y0, 0, 0, 1],
    toMiddle: Homography = [1, 0, width / 2, 0, 1, height / 2, 0, 0, 1];
  return {
    photoFromPicture: composeHomographies(toMiddle, composeHomographies(invertHomography(truth), place)),
    width: Math.max(1, Math.round((x1 - x0) / step)),
    height: Math.max(1, Math.round((y1 - y0) / step)),
    outline,
    sigma: found.sigma,
  };
}

/**
 * By how much x and y of the squared frame are to be stretched to be true to one another. Two directions that are square in space
 * meet the picture so that (v1)(v2) = -f²: where the perspective is strong it tells the focal length, else a telephone's is taken;
 * both are weighed. Then the plane's two directions are seen under f.
 */
function proportions({ across, up, sigma, squared }: RightAngles, longer: number): [number, number] {
  const product = (across[0] * up[0] + across[1] * up[1]) / (across[2] * up[2]),
    told = product < 0 ? Math.sqrt(-product) / longer : NaN;
  // The focal length is as sure as the points where lines meet, which lie so far out that they are told by small differences.
  const far = Math.max(...[across, up].map((v) => Math.hypot(v[0], v[1]) / Math.max(1e-12, Math.abs(v[2])))),
    spread = (far * sigma) / ((longer * longer) / 4);
  const wTold = told > 0.35 && told < 3 ? 1 / spread ** 2 : 0,
    wUsual = 1 / FOCAL_SPREAD ** 2;
  const focal =
    longer * Math.exp((wTold * Math.log(told || 1) + wUsual * Math.log(USUAL_FOCAL)) / (wTold + wUsual));
  const direction = (v: readonly [number, number, number]) => {
    const d = [v[0] / focal, v[1] / focal, v[2]],
      n = Math.hypot(...d);
    return d.map((c) => c / n);
  };
  const rate = (v: readonly [number, number, number], row: 0 | 3) => {
    // How fast the squared coordinate grows per unit of the plane in the middle of the photo: a step of the direction there, seen.
    const [dx, dy] = direction(v);
    return Math.abs(squared[row] * focal * dx + squared[row + 1] * focal * dy);
  };
  const rx = rate(across, 0),
    ry = rate(up, 3),
    mean = Math.sqrt(rx * ry);
  return [mean / rx, mean / ry];
}
