import { roomsWithin } from '@calque/core/building';
import { crossesItself, makeRegion, regionContains, type Point } from '@calque/core/geometry';
import {
  GABLE,
  get,
  group,
  pairOf,
  roofShape,
  setFields,
  USUAL_STOREY_HEIGHT,
  type Change,
  type RoofMeasure,
  type Wall,
  toRoof,
} from '@calque/core/model';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { elementOf, sourceOf, type Shape } from '@/drawing/drawn';
import type { ShapePlan, Variant } from '@/drawing/shape-tool';
import { traceHere } from '@/table/hit';
import type { Table } from '@/table/table';

type RoofForm = 'hipped' | 'gables' | 'lean-to' | 'flat';

/** Pitches of the sides of an outline for a form; gables stand at the two shortest sides that lie across from one another. */
export function pitchesFor(form: RoofForm, points: readonly Point[], pitch: number): number[] {
  if (form === 'flat') return points.map(() => 0);
  if (form === 'hipped') return points.map(() => pitch);
  if (form === 'lean-to') return points.map((_, i) => (i === 0 ? pitch : GABLE));
  const lengths = points.map((p, i) => {
    const q = points[(i + 1) % points.length];
    return Math.hypot(q[0] - p[0], q[1] - p[1]);
  });
  const [first] = lengths.map((l, i) => ({ l, i })).sort((a, b) => a.l - b.l),
    across = (first.i + Math.floor(points.length / 2)) % points.length;
  return points.map((_, i) => (i === first.i || i === across ? GABLE : pitch));
}

/** A roof as the next one is, its eaves where the walls of its storey end. */
function roofOf(table: Table, points: readonly Point[], form: RoofForm): Shape & { type: 'roof' } {
  const { roof, said } = useBuildingSizes.getState(),
    storey = get(table.session.state.model, 'storey', table.state.getState().planeId);
  const measures: RoofMeasure[] = ['pitch', 'eaves', 'overhang', 'thickness'];
  return {
    type: 'roof',
    points: points.map(pairOf),
    pitches: pitchesFor(form, points, roof.pitch),
    eaves: (storey?.height ?? USUAL_STOREY_HEIGHT) + roof.thickness,
    overhang: roof.overhang,
    thickness: roof.thickness,
    assumed: measures.filter((m) => !said.roof.includes(m)),
  };
}

const outlined = (words: string, form: RoofForm): Variant => ({
  words,
  steps: [
    form === 'lean-to' ? 'click where its eaves begin' : 'click its first corner',
    form === 'lean-to' ? 'click where its eaves end' : 'click the next corner',
    'click the next corner',
  ],
  least: 3,
  shape: (points, { table }, closed) => {
    if (points.length < 3)
      return points.length === 2
        ? { type: 'line', from: pairOf(points[0]), to: pairOf(points[1]) }
        : 'A roof needs three corners.';
    if (crossesItself(points)) return 'This outline crosses itself: take corners back by Backspace.';
    const shape = roofOf(table, points, form),
      made = roofShape(shape);
    // While it is drawn it need not close yet.
    return 'why' in made && closed ? made.why : shape;
  },
});

export const ROOF_PLAN: ShapePlan = {
  id: 'roof',
  noun: 'Roof',
  label: 'Outline a roof',
  variants: [
    outlined('hipped', 'hipped'),
    outlined('with gables', 'gables'),
    outlined('lean-to', 'lean-to'),
    outlined('flat', 'flat'),
  ],
};

/** Makes a roof over the outside faces of the walls, and lets those that bear it follow it. */
export function roofOverWalls(table: Table): void {
  const { walls } = traceHere(table),
    { outside, rooms } = roomsWithin(walls);
  const outlines = outside.filter((ring) => {
    const region = makeRegion([ring], 'nonzero');
    return rooms.some(({ outline }) => regionContains(region, outline[0][0], outline[0][1]));
  });
  if (outlines.length === 0) {
    table.session.tell(
      walls.length === 0
        ? 'There are no walls in sight on this storey: outline the roof instead.'
        : 'The walls enclose nothing yet: outline the roof, or close the walls first.',
      true,
    );
    return;
  }
  const roofs = outlines.map((ring) => elementOf(table, roofOf(table, ring, 'hipped'), sourceOf(table, [])));
  const under = walls.filter((w) => !w.underRoof && isOwn(table, w));
  const done = table.session.do(
    group([
      ...roofs.map((entity): Change => ({ type: 'add', entity })),
      ...under.map((w) => setFields(w, toRoof(table.session.state.model, w))),
    ]),
    roofs.length === 1 ? 'Make a roof' : `Make ${roofs.length} roofs`,
  );
  if (done) table.setSelection(roofs.map((r) => r.id));
}

/** Walls of placed groups are changed in their group. */
const isOwn = (table: Table, wall: Wall): boolean => get(table.session.state.model, 'wall', wall.id) !== null;
