import { isStraight, type PrintedDimension, type PrintedReading } from '@calque/core/calibration';
import {
  applyTransform,
  invertTransform,
  makeRegion,
  regionContains,
  type Point,
} from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import { cropRing } from '@/table/look-cache';
import type { NamedPlace } from '@/table/snapping';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';
import { toScreen } from '@/table/viewport';
import { printedOf, sigmaOfRead, usePrinted } from '@/drawing/printed';

/** The cursor is on a line within this, CSS pixels; and nearer than this to an end it means the end. */
const ON_LINE = 5,
  AT_END = 14;
/** Around a figure, in its heights and in CSS pixels. */
const AROUND = 0.25,
  LEAST_AROUND = 3;

/** A printed dimension with what it was read from. `unitKnown`: its figure is a length; otherwise the unit must be asked first. */
export interface PointedDimension extends PrintedDimension {
  unitKnown: boolean;
  sigma: number;
}

/** What was found for an underlay as it lies and a reading: asked for at every move of the pointer. */
const cache = new WeakMap<Underlay, { reading: PrintedReading; found: PointedDimension[] }>();

/** Lengths between two points that are printed on what an underlay shows. */
function printedOn(u: Underlay): PointedDimension[] {
  const printed = printedOf(usePrinted.getState(), u);
  if (printed?.state !== 'read') return [];
  const { reading } = printed,
    known = cache.get(u);
  if (known?.reading === reading) return known.found;
  const region = makeRegion([cropRing(u)], 'nonzero'),
    inside = ([x, y]: Point) => regionContains(region, x, y);
  const found = reading.dimensions
    .filter((d) => isStraight(d) && !d.free && inside(d.from) && inside(d.to))
    .map((d) => ({ ...d, unitKnown: reading.views[d.view].unit !== null, sigma: sigmaOfRead(reading) }));
  cache.set(u, { reading, found });
  return found;
}

/** The ends of the printed dimensions: they come before the ends of ticks, the outlines of dots, and what crosses near by. */
export const printedEnds = (u: Underlay): NamedPlace[] =>
  printedOn(u).flatMap((d) =>
    [d.from, d.to].map((sheet) => ({ sheet, words: `end of the ${d.text} printed`, lit: [[d.from, d.to]] })),
  );

/** The printed dimension whose figure or line the cursor is on. */
export function dimensionAt(table: Table, u: Underlay, pick: Pick): PointedDimension | null {
  if (pick.found?.named !== undefined) return null;
  const [x, y] = applyTransform(invertTransform(u.placement), pick.bare),
    pixel = Math.hypot(...sheetStep(u)) / table.view.scale;
  const all = printedOn(u);
  const onFigure = all.find(({ figure: f }) => {
    const c = Math.cos(f.radians),
      s = Math.sin(f.radians),
      along = (x - f.x) * c + (y - f.y) * s,
      up = -(x - f.x) * s + (y - f.y) * c,
      room = Math.max(AROUND * f.height, LEAST_AROUND * pixel);
    return along > -room && along < f.width + room && up > -room && up < 0.75 * f.height + room;
  });
  if (onFigure) return onFigure;
  if (pick.found && pick.found.kind !== 'along') return null;
  let best: PointedDimension | null = null,
    least = ON_LINE * pixel;
  for (const d of all) {
    const ux = (d.to[0] - d.from[0]) / d.points,
      uy = (d.to[1] - d.from[1]) / d.points,
      t = (x - d.from[0]) * ux + (y - d.from[1]) * uy,
      off = Math.abs(-(x - d.from[0]) * uy + (y - d.from[1]) * ux);
    if (off > least || Math.min(t, d.points - t) < AT_END * pixel) continue;
    best = d;
    least = off;
  }
  return best;
}

/** A millimetre of the plane on the sheet, as a step in sheet points. */
function sheetStep(u: Underlay): [number, number] {
  const inverse = invertTransform(u.placement);
  return [inverse[0], inverse[1]];
}

/** A pick at a place of the sheet that is known, not pointed at. */
export function pickAt(
  table: Table,
  u: Underlay,
  sheet: readonly [number, number],
  lit: readonly (readonly Point[])[],
): Pick {
  const plane = applyTransform(u.placement, [sheet[0], sheet[1]]);
  return {
    plane,
    bare: plane,
    screen: toScreen(table.view, plane),
    found: { kind: 'end', plane, underlayId: u.id, sheet: [sheet[0], sheet[1]], lit },
    others: [],
    shift: false,
    alt: false,
  };
}
