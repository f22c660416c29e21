import { makeRegion, regionContains } from '@calque/core/geometry';
import { areaHatch, areaLabelPlace, areaRings, areaWords, type Area } from '@calque/core/model';
import { kept } from '@/table/painters/kept';
import { writeWhereFree } from '@/table/painters/letters';
import type { Painter } from '@/table/painters/painter';
import { PlanePath } from '@/table/painters/plane-path';
import type { ScreenBox } from '@/table/painters/word-room';
import { toPlane } from '@/table/viewport';

const SOLID_ALPHA = 0.28,
  TINT_ALPHA = 0.07,
  HATCH_ALPHA = 0.75;
/** Hatch lines nearer than this run together, CSS pixels. */
const LEAST_SPACING = 2;

const fillOf = kept((e: Area) => {
  const path = new PlanePath();
  for (const ring of areaRings(e)) path.ring(ring);
  return path;
});
const hatchOf = kept((e: Area) => {
  const path = new PlanePath();
  for (const [from, to] of areaHatch(e)) path.segment(from, to);
  return path;
});
const regionOf = kept((e: Area) => makeRegion(areaRings(e), 'evenodd'));
const labelOf = kept((e: Area) => areaLabelPlace(e));

export const AREA_PAINTER: Painter<Area> = {
  strokes: true,
  seeksRoom: true,
  below({ brush, alpha }, e) {
    const { context, view } = brush;
    context.globalAlpha = alpha * (e.fill.kind === 'solid' ? SOLID_ALPHA : TINT_ALPHA);
    fillOf(e).fill(brush, 'evenodd');
    context.globalAlpha = alpha * HATCH_ALPHA;
    if (e.fill.kind === 'hatch' && e.fill.spacing * view.scale > LEAST_SPACING) hatchOf(e).stroke(brush, 0.8);
  },
  above({ brush, style }, e) {
    const region = regionOf(e),
      { view } = brush;
    // All of it lies within the area, or it waits for a closer zoom.
    const within = ([x0, y0, x1, y1]: ScreenBox) =>
      [x0, x1].every((x) => [y0, y1].every((y) => regionContains(region, ...toPlane(view, [x, y]))));
    writeWhereFree(brush, areaWords(e, style), labelOf(e), { reach: 6, fits: within });
  },
};
