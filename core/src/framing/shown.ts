import {
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
import type { Loose, Member, Model } from '../model/index.ts';
import { frameOf } from '../planes/index.ts';
import {
  boltOf,
  hasJoints,
  joinedFrame,
  onPlate,
  type BoltSet,
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

const flat = ({ origin, across, up }: Frame, p: ModelPoint): Point => {
  const d = minus3(p, origin);
  return [dot3(d, across), dot3(d, up)];
};

function outlineOfPlate(plate: PlatePart, frame: Frame): Piece[] {
  const place = onPlate(plate),
    corners = plate.outline.flatMap((p) => [place(p), place(p, plate.thickness)]),
    hull = convexHull(corners.map((p) => flat(frame, p)));
  return hull.map((p, i) => segmentPiece(p, hull[(i + 1) % hull.length]));
}

/** Bolts by their axes from head to nut; seen along these by a cross as wide as their head. */
function linesOfBolts({ d, at, axis, grip, anchor }: BoltSet, frame: Frame): Piece[] {
  const size = boltOf(d),
    out = cross3(frame.across, frame.up),
    isEndOn = Math.abs(dot3(axis, out)) > 0.99;
  return at.flatMap((p): Piece[] => {
    const c = flat(frame, p),
      r = size.flats / 2;
    if (isEndOn)
      return [
        segmentPiece([c[0] - r, c[1]], [c[0] + r, c[1]]),
        segmentPiece([c[0], c[1] - r], [c[0], c[1] + r]),
      ];
    const along = (by: number) => flat(frame, p.map((v, i) => v + by * axis[i]) as unknown as ModelPoint);
    return [segmentPiece(along(-(anchor ? size.nut : size.head)), along(anchor ? 10 * d : grip + size.nut))];
  });
}
