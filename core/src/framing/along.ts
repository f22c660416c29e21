import { facing, unionBox, type Transform } from '../geometry/index.ts';
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
  const out = facing(frameOf(plane)),
    planes = given.distances.map((d, i): WorkPlane => ({
      ...plane,
      id: given.newId(),
      name: given.names[i],
      origin: [plane.origin[0] - d * out[0], plane.origin[1] - d * out[1], plane.origin[2] - d * out[2]],
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

/** Spacings as they are written, "5000", "3x5000", "5000 4500", each from the one before; parted by spaces, or by semicolons where feet and inches have spaces of their own. Null for what is none. */
export function spacings(text: string, lengthOf: (text: string) => number | null): number[] | null {
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
    if (step === null || step === 0 || count < 1) return null;
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
