import {
  areaOfPieces,
  boxOfPoints,
  cleanRing,
  crossesItself,
  distanceToSegment,
  facing,
  flattenPiece,
  makeRegion,
  regionContains,
  ringArea,
  ringTurning,
  worldFromPlane,
  type ModelPoint,
  type Point,
  type Region,
} from '../../geometry/index.ts';
import {
  circleOf,
  looseElements,
  ofType,
  ringPieces,
  storeysOf,
  type Bolts,
  type Model,
  type OutlineRing,
  type Plate,
  type PlaneEntity,
} from '../../model/index.ts';
import { frameOf } from '../../planes/index.ts';
import type { JointDoubt, PlatePart } from './parts.ts';
import { distance } from './faces.ts';
import { along } from './vectors.ts';

/** More corners, bends by their chords, than an outline is made with: whether it crosses itself is asked of each two of its sides. */
const MOST_CORNERS = 3000;

/** Chords of a plate's bends, millimetres. */
const CHORDS = 0.05;

/** A plate that is drawn by itself, where it stands; no part is made of one that is none. */
export interface OwnPlate {
  plate: Plate;
  on: PlaneEntity;
  part: PlatePart | null;
  doubts: readonly string[];
}

/** Bolts that are drawn by themselves, with the plane on which they are. */
export interface OwnBolts {
  bolts: Bolts;
  on: PlaneEntity;
}

/** Plates and bolts of a project that are drawn by themselves. */
export function ownParts(model: Model): { plates: OwnPlate[]; bolts: OwnBolts[] } {
  const plates: OwnPlate[] = [],
    bolts: OwnBolts[] = [];
  if (!hasOwnParts(model)) return { plates, bolts };
  for (const on of [...storeysOf(model), ...ofType(model, 'plane')])
    for (const e of looseElements(model, on.id))
      if (e.type === 'plate') plates.push(ownPlate(e, on));
      else if (e.type === 'bolts') bolts.push({ bolts: e, on });
  return { plates, bolts };
}

/** Are there any, drawn or within groups? */
export const hasOwnParts = (model: Model): boolean =>
  model.hasType('plate') ||
  model.hasType('bolts') ||
  ofType(model, 'assembly').some((a) => a.elements.some((e) => e.type === 'plate' || e.type === 'bolts'));

const known = new WeakMap<Plate, { on: PlaneEntity; own: OwnPlate }>();

function ownPlate(plate: Plate, on: PlaneEntity): OwnPlate {
  const before = known.get(plate);
  if (before?.on === on) return before.own;
  const doubts: string[] = [],
    own = { plate, on, part: partOf(plate, on, doubts), doubts };
  known.set(plate, { on, own });
  return own;
}

const flat = (ring: OutlineRing): Point[] =>
  cleanRing(ringPieces(ring).flatMap((p) => flattenPiece(p, CHORDS).slice(0, -1)));

/** What is cut already. */
interface Taken {
  region: Region;
  points: readonly Point[];
}

/** Does either of two openings have a corner within the other? */
function runsInto({ region, points }: Taken, other: readonly Point[]): boolean {
  const [x0, y0, x1, y1] = boxOfPoints(other),
    [u0, v0, u1, v1] = region.box;
  if (x0 > u1 || u0 > x1 || y0 > v1 || v0 > y1) return false;
  const own = makeRegion([[...other]], 'nonzero');
  return (
    other.some(([x, y]) => regionContains(region, x, y)) || points.some(([x, y]) => regionContains(own, x, y))
  );
}

function partOf(plate: Plate, on: PlaneEntity, doubts: string[]): PlatePart | null {
  const [outer, ...cuts] = plate.rings,
    ring = flat(outer);
  if (ring.length > MOST_CORNERS) {
    doubts.push(`its outline has more than ${MOST_CORNERS} corners: draw it with fewer, or with arcs`);
    return null;
  }
  if (ring.length > 3 && crossesItself(ring)) {
    doubts.push('its outline crosses itself: no plate is made of it');
    return null;
  }
  if (ring.length < 3 || Math.abs(ringArea(ring)) < 1) {
    doubts.push('it has no face: draw its outline larger');
    return null;
  }
  const region = makeRegion([ring], 'nonzero'),
    holes: PlatePart['holes'] = [],
    slots: OutlineRing[] = [],
    taken: Taken[] = [];
  for (const cut of cuts) {
    const points = flat(cut);
    if (points.length < 3) continue;
    if (points.length > MOST_CORNERS) doubts.push('an opening of it has too many corners and is not cut');
    else if (crossesItself(points)) doubts.push('an opening of it crosses itself and is not cut');
    else if (points.some(([x, y]) => !regionContains(region, x, y)))
      doubts.push('a hole does not lie within its outline and is not cut');
    else if (taken.some((t) => runsInto(t, points)))
      doubts.push('a hole runs into another of it and is not cut');
    else {
      taken.push({ region: makeRegion([points], 'nonzero'), points });
      const circle = circleOf(cut);
      if (circle) holes.push(circle);
      else slots.push(cut);
    }
  }
  const frame = frameOf(on);
  return {
    id: plate.id,
    name: plate.name || 'plate',
    form: null,
    owner: plate.id,
    weldedTo: plate.weldedTo,
    origin: along(frame.origin, facing(frame), plate.rise),
    x: frame.across,
    y: frame.up,
    outline: [...ringTurning(ring, true)],
    holes,
    slots,
    drawn: outer.bulges.some((b) => b !== 0) ? outer : null,
    thickness: plate.thickness,
    material: plate.material,
    density: plate.density,
    angle: null,
    weld: null,
  };
}

/** Areas of a plate's face as its outline is drawn, and of that without what is cut and drilled out of it, square millimetres. */
export function plateAreas({ outline, drawn, holes, slots }: PlatePart): { gross: number; net: number } {
  const gross = Math.abs(drawn ? areaOfPieces(ringPieces(drawn)) : ringArea(outline)),
    cut = slots.reduce((sum, s) => sum + Math.abs(areaOfPieces(ringPieces(s))), 0);
  return { gross, net: gross - cut - holes.reduce((sum, h) => sum + (Math.PI / 4) * h.d ** 2, 0) };
}

/** What is left of a plate or a cleat, cubic millimetres. */
export function plateVolume(part: PlatePart): number {
  const across = part.angle?.across ?? [];
  return (
    plateAreas(part).net * part.thickness -
    across.reduce((sum, { from, to, d }) => sum + (Math.PI / 4) * d * d * distance(from, to), 0)
  );
}

/** The corners of slots and other openings, their bends by chords. */
export const flatSlots = ({ slots }: PlatePart): Point[][] => slots.map(flat);

const regions = new WeakMap<readonly Point[], Region>();

/** How far within an outline a place lies, however that turns; below 0 outside. */
export function withinOutline([x, y]: Point, outline: readonly Point[]): number {
  let region = regions.get(outline);
  if (!region) regions.set(outline, (region = makeRegion([[...outline]], 'nonzero')));
  const near = Math.min(
    ...outline.map((p, i) => {
      const q = outline[(i + 1) % outline.length];
      return distanceToSegment(x, y, p[0], p[1], q[0], q[1]);
    }),
  );
  return regionContains(region, x, y) ? near : -near;
}

/** Where bolts stand in the model, on their plane, and which way that faces. */
export function placesOfBolts(
  { on }: OwnBolts,
  places: readonly Point[],
): { at: ModelPoint[]; out: ModelPoint } {
  const frame = frameOf(on);
  return { at: places.map((p) => worldFromPlane(frame, p)), out: facing(frame) };
}

/** What plates by themselves have that does not come out, told by their ids. */
export const plateDoubts = (plates: readonly OwnPlate[], isMember: (id: string) => boolean): JointDoubt[] =>
  plates.flatMap(({ plate, doubts }) =>
    [
      ...doubts,
      ...(plate.weldedTo !== null && !isMember(plate.weldedTo)
        ? ['the member to which it is welded is not there any more']
        : []),
    ].map((words) => ({ id: plate.id, end: null, words })),
  );
