import { TAU } from '@calque/core/geometry';
import { circleRing, pairOf, type OutlineRing, type Traced } from '@calque/core/model';
import { putInPlace } from '@/drawing/made-of';
import { count } from '@/project/trace-words';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import { plateOf } from './next-plate';

/** The outlines that an element closes: of an area with its holes; null for what closes none. */
export function outlinesOf(e: Traced): OutlineRing[] | null {
  if (e.type === 'arc' && Math.abs(e.sweep) >= TAU - 1e-9) return [circleRing(e.centre, 2 * e.radius)];
  if (e.type === 'path' && e.closed) return [{ points: e.points.map(pairOf), bulges: [...e.bulges] }];
  return e.type === 'area' ? e.rings : null;
}

/** Circles, closed outlines and areas that are selected become plates; what they were goes. */
export function makePlates(table: Table): void {
  const found = chosenTraced(table).flatMap((e) => {
    const rings = outlinesOf(e);
    return rings ? [{ e, shape: plateOf(rings) }] : [];
  });
  if (found.length === 0) {
    table.session.tell('Select circles, closed outlines or areas: plates are made of these.', true);
    return;
  }
  putInPlace(table, found, `Make ${count(found.length, 'plate')}`);
}
