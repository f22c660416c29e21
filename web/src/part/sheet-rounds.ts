import { applyTransform, makeRegion, regionContains } from '@calque/core/geometry';
import { cropRingOf, isCircle, ofType, tracedOn } from '@calque/core/model';
import type { DrawnRound } from '@calque/core/part';
import type { Table } from '@/table/table';

/** The full circles of the sheets that lie on a plane, plane millimetres; none of a sheet that is stretched. */
export function sheetRounds(table: Table, planeId: string): DrawnRound[] {
  return ofType(table.session.state.model, 'underlay')
    .filter((u) => u.planeId === planeId && u.visible)
    .flatMap((u) => {
      const circles = table.sheets.get(u.fileId, u.page)?.linework.circles,
        [a, b, c, d] = u.placement,
        scale = Math.hypot(a, b);
      if (!circles || Math.abs(Math.hypot(c, d) / scale - 1) > EVEN) return [];
      const laid = makeRegion([cropRingOf(u)], 'nonzero');
      return Array.from({ length: circles.length / 3 }, (_, i) => circles.subarray(3 * i, 3 * i + 3)).flatMap(
        ([x, y, r]): DrawnRound[] =>
          regionContains(laid, x, y)
            ? [{ centre: applyTransform(u.placement, [x, y]), radius: r * scale }]
            : [],
      );
    });
}
const EVEN = 1e-3;

/** Circles that are drawn on a plane, with their ids. */
export const tracedRounds = (table: Table, planeId: string): (DrawnRound & { id: string })[] =>
  tracedOn(table.session.state.model, planeId).flatMap((e) =>
    e.type === 'arc' && isCircle(e) ? [{ id: e.id, centre: e.centre, radius: e.radius }] : [],
  );
