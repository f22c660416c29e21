import {
  arcPiece,
  convexHull,
  cross3,
  dot3,
  minus3,
  segmentPiece,
  type Frame,
  type ModelPoint,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import type { Loose, Member, Model, PlaneEntity } from '../model/index.ts';
import { frameOf } from '../planes/index.ts';
import {
  boltOf,
  hasJoints,
  joinedFrame,
  onPlate,
  type BoltSet,
  type JoinedFrame,
  type PlatePart,
  type Shape,
} from './joints/index.ts';

const cuts = new WeakMap<Member, { shape: Shape; shown: Member }>();

/** A member as what it meets cuts it; anything else as it is. */
export function asCut<E extends Loose>(model: Model, e: E): E {
  if (e.type !== 'member' || !hasJoints(model)) return e;
  const shape = joinedFrame(model).shapes.get(e.id);
  if (!shape) return e;
  const known = cuts.get(e);
  // The same member for the same cuts, so that what is made of it is known again.
  if (known && sameCuts(known.shape, shape)) return known.shown as E;
  const { start, end } = shape,
    shown: Member = { ...e, cut: { start, end } };
  cuts.set(e, { shape, shown });
  return shown as E;
}

const sameCuts = (a: Shape, b: Shape): boolean =>
  (['start', 'end'] as const).every(
    (end) => a[end].z === b[end].z && a[end].kx === b[end].kx && a[end].ky === b[end].ky,
  );

/** What joints put on a plane, as it is seen square on: outlines of plates, and lines of bolts. */
export interface JointLines {
  plates: Piece[];
  bolts: Piece[];
}

/** Lines of the joints of members that are drawn on a plane, perhaps of some of these alone. */
export function jointLines(
  model: Model,
  planeId: string,
  shows: (memberId: string) => boolean = () => true,
): JointLines {
  const { members, plates, bolts } = joinedFrame(model),
    here = new Map(
      members.filter((m) => m.on.id === planeId && shows(m.member.id)).map((m) => [m.member.id, m]),
    ),
    [first] = here.values();
  if (!first) return { plates: [], bolts: [] };
  const frame = frameOf(first.on);
  return {
    plates: plates.filter((p) => here.has(p.owner)).flatMap((p) => outlineOfPlate(p, frame)),
    bolts: bolts.filter((b) => here.has(b.owner)).flatMap((b) => linesOfBolts(b, frame)),
  };
}

interface OfMember {
  on: PlaneEntity;
  plates: PlatePart[];
  bolts: BoltSet[];
}
const grouped = new WeakMap<JoinedFrame, Map<string, OfMember>>();

/** What picks find of a member's joints on its plane: outlines of plates, bolts by their axes, or by their circles where these are seen end on. */
export function jointPieces(model: Model, memberId: string): Piece[] {
  if (!hasJoints(model)) return [];
  const joined = joinedFrame(model);
  let map = grouped.get(joined);
  if (!map) {
    map = new Map(joined.members.map(({ member, on }) => [member.id, { on, plates: [], bolts: [] }]));
    for (const p of joined.plates) map.get(p.owner)?.plates.push(p);
    for (const b of joined.bolts) map.get(b.owner)?.bolts.push(b);
    grouped.set(joined, map);
  }
  const own = map.get(memberId);
  if (!own || own.plates.length + own.bolts.length === 0) return [];
  const frame = frameOf(own.on);
  return [
    ...own.plates.flatMap((p) => outlineOfPlate(p, frame)),
    ...own.bolts.flatMap((b) =>
      isEndOn(b, frame)
        ? b.at.map((p): Piece => {
            const [cx, cy] = flat(frame, p);
            return arcPiece({ cx, cy, r: b.d / 2, start: 0, end: 2 * Math.PI });
          })
        : linesOfBolts(b, frame),
    ),
  ];
}

const isEndOn = ({ axis }: BoltSet, frame: Frame): boolean =>
  Math.abs(dot3(axis, cross3(frame.across, frame.up))) > 0.99;

const cornersOf = (plate: PlatePart): ModelPoint[] => {
  const place = onPlate(plate);
  return plate.outline.flatMap((p) => [place(p), place(p, plate.thickness)]);
};

const flat = ({ origin, across, up }: Frame, p: ModelPoint): Point => {
  const d = minus3(p, origin);
  return [dot3(d, across), dot3(d, up)];
};

function outlineOfPlate(plate: PlatePart, frame: Frame): Piece[] {
  const hull = convexHull(cornersOf(plate).map((p) => flat(frame, p)));
  return hull.map((p, i) => segmentPiece(p, hull[(i + 1) % hull.length]));
}

/** Bolts by their axes from head to nut; seen along these by a cross as wide as their head. */
function linesOfBolts(set: BoltSet, frame: Frame): Piece[] {
  const { d, at, axis, grip, anchor } = set,
    size = boltOf(d),
    isCross = isEndOn(set, frame);
  return at.flatMap((p): Piece[] => {
    const c = flat(frame, p),
      r = size.flats / 2;
    if (isCross)
      return [
        segmentPiece([c[0] - r, c[1]], [c[0] + r, c[1]]),
        segmentPiece([c[0], c[1] - r], [c[0], c[1] + r]),
      ];
    const along = (by: number) => flat(frame, p.map((v, i) => v + by * axis[i]) as unknown as ModelPoint);
    return [segmentPiece(along(-(anchor ? size.nut : size.head)), along(anchor ? 10 * d : grip + size.nut))];
  });
}
