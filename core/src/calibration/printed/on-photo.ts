import {
  applyHomography,
  boxOfPoints,
  composeHomographies,
  depthAt,
  invertHomography,
  MM_PER_POINT,
  type Box,
  type Homography,
  type SheetPoint,
} from '../../geometry/index.ts';
import type { StraightSheet } from '../../ink/index.ts';
import type { PhotoReading, PrintedReading } from './types.ts';

/**
 * What was read on a photo made straight, told where it lies on the photo. A scale is told as it is in the middle of the page:
 * elsewhere it is another.
 */
export function onPhoto(reading: PrintedReading, straight: StraightSheet): PrintedReading {
  const map = straight.pageFromStraight,
    at = (p: SheetPoint): SheetPoint => applyHomography(map, p);
  const middle: SheetPoint = [straight.width / 2, straight.height / 2],
    size = sizeAt(map, middle);
  const box = ([x0, y0, x1, y1]: Box): Box =>
    boxOfPoints([at([x0, y0]), at([x1, y0]), at([x1, y1]), at([x0, y1])]);
  // A scale whose unit must be asked measures nothing yet.
  const index = reading.views.findIndex((v) => v.from === 'dimensions' && v.unit !== null),
    view = index < 0 ? null : reading.views[index];
  return {
    ...reading,
    views: reading.views.map((v) => ({
      ...v,
      region: box(v.region),
      factor: v.factor / size,
      x: v.x / size,
      y: v.y / size,
      noise: v.noise * size,
      rivals: v.rivals.map((r) => ({ ...r, factor: r.factor / size })),
    })),
    dimensions: reading.dimensions.map((d) => {
      const { x, y, radians, width, height } = d.figure,
        foot = at([x, y]),
        along = at([x + width * Math.cos(radians), y + width * Math.sin(radians)]),
        k = sizeAt(map, [x, y]);
      const figure = {
        x: foot[0],
        y: foot[1],
        width: Math.hypot(along[0] - foot[0], along[1] - foot[1]),
        height: height * k,
        radians: Math.atan2(along[1] - foot[1], along[0] - foot[0]),
      };
      return {
        ...d,
        from: at(d.from),
        to: at(d.to),
        points: d.points * size,
        factor: d.factor / size,
        figure,
      };
    }),
    // What a scale is stated for is the paper, whose size a photo does not tell.
    notes: [],
    unknown: reading.unknown.map((u) => ({ ...u, region: box(u.region) })),
    photo: {
      straight,
      view: view && index,
      factor: view?.factor ?? null,
      millimetresFromPage: view
        ? composeHomographies(
            [view.x * MM_PER_POINT, 0, 0, 0, view.y * MM_PER_POINT, 0, 0, 0, 1],
            invertHomography(map),
          )
        : null,
    },
  };
}

/** The scales of a photo at the corners of the sheet that it shows, true millimetres per millimetre of the page; null where none was read. */
export function scalesOnPhoto({
  millimetresFromPage: map,
  straight: { width, height, pageFromStraight },
}: PhotoReading): number[] | null {
  return (
    map &&
    (
      [
        [0, 0],
        [width, 0],
        [width, height],
        [0, height],
      ] as const
    ).map((p) => sizeAt(map, applyHomography(pageFromStraight, p)) / MM_PER_POINT)
  );
}

/** By how much lengths near a place grow, on average of all directions. */
function sizeAt(map: Homography, p: SheetPoint): number {
  const [a, b, , c, d, , g, h] = map,
    w = depthAt(map, p),
    [x, y] = applyHomography(map, p);
  return Math.sqrt(Math.abs((a - g * x) * (d - h * y) - (b - h * x) * (c - g * y))) / Math.abs(w);
}
