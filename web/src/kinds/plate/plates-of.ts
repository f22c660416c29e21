import { TAU } from '@calque/core/geometry';
import {
  circleRing,
  group,
  pairOf,
  removeElements,
  type Change,
  type OutlineRing,
  type Plate,
  type Traced,
} from '@calque/core/model';
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
    return rings ? [{ e, rings }] : [];
  });
  if (found.length === 0) {
    table.session.tell('Select circles, closed outlines or areas: plates are made of these.', true);
    return;
  }
  const plates = found.map(({ e, rings }): Plate => ({
    ...plateOf(rings),
    id: crypto.randomUUID(),
    planeId: e.planeId,
    source: e.source,
    ...(e.layerId && { layerId: e.layerId }),
    ...(e.part && { part: e.part }),
  }));
  const done = table.session.do(
    group([
      removeElements(
        table.session.state.model,
        found.map(({ e }) => e),
      ),
      ...plates.map((entity): Change => ({ type: 'add', entity })),
    ]),
    `Make ${count(plates.length, 'plate')}`,
  );
  if (done) table.setSelection(plates.map((p) => p.id));
}
