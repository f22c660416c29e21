import { crossesItself, makeRegion, regionContains, type Point } from '@calque/core/geometry';
import {
  flatRings,
  ofType,
  plateFace,
  setFields,
  slotRing,
  type Change,
  type OutlineRing,
  type Plate,
} from '@calque/core/model';
import { pair, positive } from '@/drawing/plan-points';
import { BY_WIDTH_AND_HEIGHT } from '@/drawing/two-corners';
import type { Context, ShapePlan, Variant } from '@/drawing/shape-tool';
import { angleOf, distance, lengthField, typedLength } from '@/table/tools/geometry';
import type { Table } from '@/table/table';
import { circleRing, plateOf, straightRing, useNextPlate } from './next-plate';

const FLAT = 'It has no face yet: pick its corners farther apart.';

/** The ways to outline a plate. */
export const PLATE_PLAN: ShapePlan = {
  id: 'plate',
  noun: 'Plate',
  label: 'Outline a plate',
  variants: [
    {
      words: 'by its corners',
      least: 3,
      steps: ['click its first corner', 'click its next corner'],
      shape: (points) => {
        if (points.length < 3) return FLAT;
        const ring = straightRing(points.map(pair));
        if (crossesItself(ring.points)) return 'Its outline crosses itself: pick its corners in turn.';
        return plateFace({ rings: [ring] }) > 1 ? plateOf([ring]) : FLAT;
      },
    },
    {
      words: 'rectangular, by two corners',
      steps: ['click a corner', 'click the corner across'],
      shape: ([a, c]) => {
        if (!c) return FLAT;
        const ring = straightRing([pair(a), [c[0], a[1]], pair(c), [a[0], c[1]]]);
        return plateFace({ rings: [ring] }) > 1 ? plateOf([ring]) : FLAT;
      },
      ...BY_WIDTH_AND_HEIGHT,
    },
    {
      words: 'round, by its middle',
      steps: ['click its middle', 'click a point of its edge'],
      shape: ([at, edge]) =>
        edge && distance(at, edge) > 0.5 ? plateOf([circleRing(pair(at), 2 * distance(at, edge))]) : FLAT,
      fields: ([at], live, { style }) =>
        at ? [lengthField('diameter', 'diameter', 2 * distance(at, live), style)] : null,
      typed: ([at], values, live, { style }) => {
        const d = positive(typedLength(values.diameter, 2 * distance(at, live), style), 'diameter');
        return typeof d === 'string' ? d : [[at[0] + d / 2, at[1]]];
      },
    },
  ],
};

const platesHere = (table: Table): Plate[] => {
  const { planeId } = table.state.getState();
  return ofType(table.session.state.model, 'plate').filter((p) => p.planeId === planeId);
};

/** The plate in whose face a place lies, the nearest to whoever looks at the plane first; null where none does. */
export function plateAt(table: Table, [x, y]: Point): Plate | null {
  return (
    platesHere(table)
      .filter((p) => regionContains(makeRegion(flatRings(p).slice(0, 1), 'evenodd'), x, y))
      .sort((a, b) => b.rise + b.thickness - a.rise - a.thickness)[0] ?? null
  );
}

/** The change that cuts an opening into the plate in which all of it lies; words where there is none. */
function cutInto(table: Table, ring: OutlineRing): Change | string {
  const [hole] = flatRings({ rings: [ring] }),
    plate = plateAt(table, hole[0]);
  if (!plate)
    return platesHere(table).length === 0
      ? 'There is no plate on this plane yet: outline one first.'
      : 'Click within a plate: a hole lies in one.';
  const [outer, ...others] = flatRings(plate),
    region = makeRegion([outer], 'evenodd'),
    taken = makeRegion(others, 'evenodd');
  if (!hole.every(([x, y]) => regionContains(region, x, y)))
    return 'It would reach beyond the edge of the plate: click farther in, or make it smaller.';
  if (others.length > 0 && hole.some(([x, y]) => regionContains(taken, x, y)))
    return 'It would run into a hole that the plate has already.';
  return setFields<Plate>(plate, { rings: [...plate.rings, ring] })!;
}

/** The ring as it is drawn before it is cut. */
const shown = (ring: OutlineRing) => ({ type: 'path' as const, closed: true, ...ring });

type Size = 'diameter' | 'length' | 'width';
const sizesIn = (
  sizes: readonly Size[],
  then: (live: Point) => Point[],
): Pick<Variant, 'fields' | 'typed' | 'asksFirst'> => ({
  asksFirst: true,
  fields: (_points, _live, { style }) =>
    sizes.map((s) => lengthField(s, s, useNextPlate.getState().hole[s], style)),
  typed: (_points, values, live, { style }: Context) => {
    const hole = { ...useNextPlate.getState().hole };
    for (const size of sizes) {
      const mm = positive(typedLength(values[size], hole[size], style), size);
      if (typeof mm === 'string') return mm;
      hole[size] = mm;
    }
    useNextPlate.setState({ hole });
    return then(live);
  },
});

/** Holes and slots in plates. */
export const PLATE_HOLE_PLAN: ShapePlan = {
  id: 'plate-hole',
  noun: 'Hole in a plate',
  label: 'Cut a hole into a plate',
  variants: [
    {
      words: 'round',
      steps: ['click its middle, or type its diameter'],
      shape: ([at]) => shown(circleRing(pair(at), useNextPlate.getState().hole.diameter)),
      instead: ([at], { table }) =>
        cutInto(table, circleRing(pair(at), useNextPlate.getState().hole.diameter)),
      ...sizesIn(['diameter'], (live) => [live]),
    },
    {
      words: 'a slot',
      steps: ['click its middle, or type its sizes', 'click which way it runs'],
      shape: ([at, way]) => shown(slotAt(at, way)),
      instead: ([at, way], { table }) => {
        const { length, width } = useNextPlate.getState().hole;
        if (length <= width) return 'A slot is longer than wide: type its sizes.';
        return cutInto(table, slotAt(at, way));
      },
      ...sizesIn(['length', 'width'], (live) => [live]),
    },
  ],
};

function slotAt(at: Point, way: Point | undefined): OutlineRing {
  const { length, width } = useNextPlate.getState().hole;
  return slotRing(pair(at), Math.max(length, width * 1.0001), width, way ? angleOf(at, way) : 0);
}
