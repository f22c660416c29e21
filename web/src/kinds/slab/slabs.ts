import { roomsWithin } from '@calque/core/building';
import { makeRegion, regionContains, ringArea } from '@calque/core/geometry';
import {
  flatRings,
  group,
  ofType,
  pairOf,
  setFields,
  type Change,
  type OutlineRing,
  type Slab,
} from '@calque/core/model';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { elementOf, sourceOf, type Shape } from '@/drawing/drawn';
import { traceHere } from '@/table/hit';
import type { Table } from '@/table/table';

/** A slab as the next one is: its upper face on the floor of its storey. */
export function slabOf(rings: OutlineRing[]): Shape & { type: 'slab' } {
  const { slab, said } = useBuildingSizes.getState();
  return {
    type: 'slab',
    rings,
    thickness: slab.thickness,
    top: 0,
    assumed: said.slab.includes('thickness') ? ['top'] : ['thickness', 'top'],
  };
}

const slabsHere = (table: Table): Slab[] =>
  ofType(table.session.state.model, 'slab').filter((s) => s.planeId === table.state.getState().planeId);

/** The change that cuts a hole into the slab in which all of its corners lie; words where there is none. */
export function holeIn(table: Table, ring: OutlineRing): Change | string {
  const [hole] = flatRings({ rings: [ring] });
  const around = slabsHere(table)
    .filter((s) => {
      const region = makeRegion(flatRings(s), 'evenodd');
      return hole.every(([x, y]) => regionContains(region, x, y));
    })
    .sort((a, b) => Math.abs(ringArea(flatRings(a)[0])) - Math.abs(ringArea(flatRings(b)[0])));
  if (around.length === 0)
    return slabsHere(table).length === 0
      ? 'There is no slab on this storey yet: outline one first.'
      : 'All corners of a hole lie within one slab, and not in a hole that it has.';
  return setFields(around[0], { rings: [...around[0].rings, ring] })!;
}

/** Makes a slab within the outside faces of the walls; of each of several groups of walls one. */
export function slabUnderWalls(table: Table): void {
  const { walls } = traceHere(table),
    { outside, rooms } = roomsWithin(walls);
  if (rooms.length === 0) {
    table.session.tell(
      walls.length === 0
        ? 'There are no walls in sight on this storey: outline the slab instead.'
        : 'The walls enclose nothing yet: outline the slab, or close the walls first.',
      true,
    );
    return;
  }
  // A wall that stands by itself bounds no floor.
  const regions = outside.map((r) => ({ ring: r, region: makeRegion([r], 'nonzero') })),
    floors = regions.filter(({ region }) =>
      rooms.some(({ outline }) => regionContains(region, outline[0][0], outline[0][1])),
    );
  const added = floors.map(({ ring }): Change => ({
    type: 'add',
    entity: elementOf(
      table,
      slabOf([{ points: ring.map(pairOf), bulges: ring.map(() => 0) }]),
      sourceOf(table, []),
    ),
  }));
  if (!table.session.do(group(added), added.length === 1 ? 'Make a slab' : `Make ${added.length} slabs`))
    return;
  table.setSelection(added.flatMap((c) => (c.type === 'add' ? [c.entity.id] : [])));
}
