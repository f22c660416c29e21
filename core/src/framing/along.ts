import { facing, unionBox, worldFromPlane, type Transform } from '../geometry/index.ts';
import {
  applyOrThrow,
  boxOf,
  copiesOf,
  group,
  makeAssembly,
  movedBy,
  ofType,
  shownOf,
  tracedOn,
  type Change,
  type Model,
  type Placed,
  type Traced,
  type WorkPlane,
} from '../model/index.ts';
import { frameOf } from '../planes/index.ts';

/** More elements than are copied at once. */
const MOST_FREE = 50000;

/** About what a frame is turned: the upright line at its left, in its middle or at its right. */
export type TurnedAbout = 'left' | 'middle' | 'right';

/** How a frame is copied along. */
export interface Along {
  /** How far behind its plane each copy stands, millimetres; below 0 before it. */
  distances: readonly number[];
  /** What the planes of the copies are called, in their order. */
  names: readonly string[];
  /** Copies of one group, which follow when one of them is edited; else free ones. */
  linked: boolean;
  /** The other way round about the middle of the frame. */
  mirrored: boolean;
  /** Each is turned by so much more than the one before it, counter-clockwise seen from above, radians, about an upright line of the frame. */
  turned?: { by: number; about: TurnedAbout } | null;
  newId(): string;
}

/** Copies all that is traced on an upright plane to planes of its own behind or before it; words where there is nothing. */
export function frameAlong(
  model: Model,
  plane: WorkPlane,
  given: Along,
): { change: Change; planes: string[] } | string {
  const traced = tracedOn(model, plane.id);
  if (traced.length === 0) return 'Nothing has been traced on this plane yet: draw the frame first.';
  const many = traced.length * given.distances.length;
  if (!given.linked && many > MOST_FREE)
    return `That would be ${many} elements: take fewer copies, or copy it as one group.`;
  const planes = given.distances.map((d, i): WorkPlane => ({
      ...plane,
      ...copiedPlane(
        model,
        plane,
        traced,
        d,
        given.turned ? (i + 1) * given.turned.by : 0,
        given.turned?.about,
      ),
      id: given.newId(),
      name: given.names[i],
    })),
    map = given.mirrored ? mirrorOf(traced, model) : null,
    add = (entity: Traced | WorkPlane): Change => ({ type: 'add', entity });
  const copies = given.linked ? linkedCopies(model, traced, plane.name, planes, map, given) : null;
  const change = group([
    ...planes.map(add),
    ...(copies ??
      planes.flatMap((p) =>
        copiesOf(traced, given.newId, model).map((e) =>
          add({ ...(map ? movedBy(e, map) : e), planeId: p.id, part: null }),
        ),
      )),
  ]);
  return change ? { change, planes: planes.map((p) => p.id) } : 'There is nothing to copy.';
}

/** Where the plane of a copy stands: turned about an upright line of the frame, then so far behind where that faces. */
function copiedPlane(
  model: Model,
  plane: WorkPlane,
  traced: readonly Traced[],
  distance: number,
  turn: number,
  about: TurnedAbout = 'middle',
): Pick<WorkPlane, 'origin' | 'across' | 'up'> {
  const [x0, , x1] = traced.map((e) => boxOf(shownOf(e, model))).reduce(unionBox),
    x = about === 'left' ? x0 : about === 'right' ? x1 : (x0 + x1) / 2,
    pivot = worldFromPlane(frameOf(plane), [x, 0]),
    [c, s] = turn === 0 ? [1, 0] : [Math.cos(turn), Math.sin(turn)],
    turned = ([u, v, w]: readonly [number, number, number]): [number, number, number] => [
      c * u - s * v,
      s * u + c * v,
      w,
    ],
    from = turned([plane.origin[0] - pivot[0], plane.origin[1] - pivot[1], plane.origin[2] - pivot[2]]),
    [across, up] = [turned(plane.across), turned(plane.up)],
    out = facing({ origin: plane.origin, across, up });
  return {
    across,
    up,
    origin: [
      pivot[0] + from[0] - distance * out[0],
      pivot[1] + from[1] - distance * out[1],
      pivot[2] + from[2] - distance * out[2],
    ],
  };
}

/** The group of the frame, if it is none yet, and one placed on each plane. */
function linkedCopies(
  model: Model,
  traced: readonly Traced[],
  name: string,
  planes: readonly WorkPlane[],
  map: Transform | null,
  { newId }: Along,
): (Change | null)[] {
  const [only] = traced,
    isOne = traced.length === 1 && only.type === 'placed',
    made = isOne
      ? null
      : makeAssembly(model, traced, {
          id: newId(),
          placedId: newId(),
          name: freeName(model, name),
          base: [0, 0],
        }),
    placed = isOne
      ? only
      : tracedOn(applyOrThrow(model, made!), only.planeId).find((e): e is Placed => e.type === 'placed')!;
  return [
    made,
    ...planes.map((p): Change => {
      const { members: _, ...copy } = map ? (movedBy(placed, map) as Placed) : placed;
      return { type: 'add', entity: { ...copy, id: newId(), planeId: p.id } };
    }),
  ];
}

function freeName(model: Model, name: string): string {
  const taken = new Set(ofType(model, 'assembly').map((a) => a.name));
  for (let n = 1; ; n++) {
    const own = n === 1 ? name : `${name} ${n}`;
    if (!taken.has(own)) return own.slice(0, 200);
  }
}

/** A mirror about the upright line in the middle of what is traced. */
function mirrorOf(traced: readonly Traced[], model: Model): Transform {
  const [x0, , x1] = traced.map((e) => boxOf(shownOf(e, model))).reduce(unionBox);
  return [-1, 0, 0, 1, x0 + x1, 0];
}

/** Spacings as they are written, "5000", "3x5000", "5000 4500", each from the one before; parted by spaces, or by semicolons where feet and inches have spaces of their own. Null for what is none, and for steps of nothing unless what is turned may stay. */
export function spacings(
  text: string,
  lengthOf: (text: string) => number | null,
  mayStay = false,
): number[] | null {
  const parts = text
    .replace(/\s*[x×*]\s*/gi, 'x')
    .split(/;|,\s/)
    // Feet, inches and fractions have spaces of their own.
    .flatMap((p) => (/['"′″/]/.test(p) ? [p] : p.trim().split(/\s+(?=[-+]?\d)/)))
    .map((p) => p.trim())
    .filter((p) => p !== '');
  const out: number[] = [];
  let at = 0;
  for (const part of parts) {
    const times = /^(\d{1,3})x(.+)$/.exec(part),
      count = times ? Number(times[1]) : 1,
      step = lengthOf(times ? times[2] : part);
    if (step === null || (step === 0 && !mayStay) || count < 1) return null;
    for (let i = 0; i < count; i++) out.push((at += step));
    if (out.length > MOST_COPIES) return null;
  }
  return out.length === 0 ? null : out;
}
/** More copies than a row of frames has. */
export const MOST_COPIES = 200;

/** Grid lines of storeys that run along an upright plane: how far behind it each lies, the nearest first; not the one in which it stands. */
export function gridsBehind(model: Model, plane: WorkPlane): { name: string; distance: number }[] {
  const [ax, ay] = plane.across,
    [nx, ny] = facing(frameOf(plane)),
    found = new Map<number, string>();
  for (const { from, to, name } of ofType(model, 'gridLine')) {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]],
      distance = -((from[0] - plane.origin[0]) * nx + (from[1] - plane.origin[1]) * ny),
      key = Math.round(distance * 10) / 10;
    if (Math.abs(ax * dy - ay * dx) > ALONG * Math.hypot(dx, dy) || Math.abs(distance) < 1) continue;
    if (!found.has(key)) found.set(key, name);
  }
  return [...found]
    .map(([distance, name]) => ({ name, distance }))
    .sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance));
}
/** Lines that differ by less than this (sine) run the same way. */
const ALONG = 0.001;
