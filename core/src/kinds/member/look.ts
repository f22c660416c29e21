import {
  arcPiece,
  convexHull,
  pathPieces,
  segmentPiece,
  TAU,
  type ModelPoint,
  type Piece,
  type Point,
  type Ring,
} from '../../geometry/index.ts';
import type { Bar } from '../kind.ts';
import { flatSection, knownSection } from './given-section.ts';
import { cutAt, memberAxis, placingOffset, type Member, type MemberAxis } from './axis.ts';

/** A member as it is seen square on to its plane. */
export interface MemberLook {
  /** The edges that are seen, its ends among them. */
  visible: Piece[];
  /** Those that its own section hides. */
  hidden: Piece[];
  /** What it covers: by the odd ones inside. */
  rings: Ring[];
}

const looks = new WeakMap<Member, MemberLook>();

export function memberLook(e: Member): MemberLook {
  let look = looks.get(e);
  if (!look) looks.set(e, (look = makeLook(e)));
  return look;
}

/** The ring about a member that stands and whose section is not known, millimetres. */
const UNKNOWN = 100;

/** Takes a place of the section, to the right and above, and so far along, into the space of the plane. */
function placer(
  e: Member,
  axis: MemberAxis,
  b: number,
  h: number,
): (x: number, y: number, along: number) => ModelPoint {
  const [px, py] = placingOffset(e.point, b, h),
    k = e.mirrored ? -1 : 1,
    { from, along, right, up } = axis;
  return (x, y, at) => {
    const [u, v] = [k * x - px, y - py];
    return [0, 1, 2].map((i) => from[i] + at * along[i] + u * right[i] + v * up[i]) as unknown as ModelPoint;
  };
}

/** How far along its line a member ends at a place of its section. */
const alongOf = (e: Member, { length }: MemberAxis): ((p: Point, end: 'start' | 'end') => number) => {
  const { cut, back } = e;
  return cut
    ? (p, end) => back[0] + cutAt(cut[end], p)
    : (_, end) => (end === 'start' ? back[0] : length - back[1]);
};

function makeLook(e: Member): MemberLook {
  const section = knownSection(e.section),
    axis = memberAxis(e);
  if (!section)
    // Of what nobody knows there is its line, or a ring about the place where it stands.
    return {
      visible: [
        axis.endOn === 0
          ? segmentPiece(e.from, e.to)
          : arcPiece({ cx: e.from[0], cy: e.from[1], r: UNKNOWN, start: 0, end: TAU }),
      ],
      hidden: [],
      rings: [],
    };
  const place = placer(e, axis, section.b, section.h),
    flat = ([x, y]: ModelPoint): Point => [x, y];
  if (axis.endOn !== 0) {
    const placed = section.rings.map(({ points, bulges }) => ({
        points: points.map(([x, y]): [number, number] => {
          const p = place(x, y, 0);
          return [p[0], p[1]];
        }),
        // Looked at from its start or from its end, and mirrored or not.
        bulges: axis.endOn > 0 !== e.mirrored ? bulges.map((b) => -b) : bulges,
      })),
      rings = flatSection(section.rings).map((ring) => ring.map(([x, y]) => flat(place(x, y, 0))));
    return {
      visible: placed.flatMap(({ points, bulges }) => pathPieces({ points, bulges, closed: true })),
      hidden: [],
      rings,
    };
  }
  const at = alongOf(e, axis),
    corners = flatSection(section.rings),
    outer = corners
      .flat()
      .flatMap((p) => (['start', 'end'] as const).map((end) => flat(place(...p, at(p, end))))),
    line = (p: Point): Piece =>
      segmentPiece(flat(place(...p, at(p, 'start'))), flat(place(...p, at(p, 'end'))));
  const { visible, hidden } = edgesSeen(e, axis, corners, section.rings.flatMap(cornersOfRing), place);
  const hull = convexHull(outer);
  return {
    visible: [...visible.map(line), ...endLines(hull, axis)],
    hidden: hidden.map(line),
    rings: [hull],
  };
}

/** Corners of a ring where two straight edges or an edge and an arc meet at an angle: fillets run into what is beside them. */
const cornersOfRing = ({
  points,
  bulges,
}: {
  points: readonly Point[];
  bulges: readonly number[];
}): Point[] =>
  points.filter((_, i) => bulges[i] === 0 && bulges[(i + points.length - 1) % points.length] === 0);

/** Edges this near to one another, seen from the plane, are one, millimetres; and so much higher hides. */
const ONE_EDGE = 0.5,
  HIDES = 1e-3;

/** The edges along a member, once each, by whether something of the section lies before them; the outermost two are always seen. */
function edgesSeen(
  e: Member,
  { along }: MemberAxis,
  rings: readonly (readonly Point[])[],
  corners: readonly Point[],
  place: (x: number, y: number, at: number) => ModelPoint,
): { visible: Point[]; hidden: Point[] } {
  const flat = Math.hypot(along[0], along[1]),
    [wx, wy] = [-along[1] / flat, along[0] / flat],
    // Across the line as it shows, and out of the plane.
    seen = ([x, y]: Point): { across: number; near: number } => {
      const p = place(x, y, 0);
      return { across: (p[0] - e.from[0]) * wx + (p[1] - e.from[1]) * wy, near: p[2] };
    };
  const outline = rings.map((ring) => ring.map(seen)),
    all = rings.flat(),
    low = all.reduce((a, b) => (seen(b).across < seen(a).across ? b : a)),
    high = all.reduce((a, b) => (seen(b).across > seen(a).across ? b : a));
  const nearestAt = (across: number): number =>
    Math.max(
      ...outline.flatMap((ring) =>
        ring.flatMap((p, i) => {
          const q = ring[(i + 1) % ring.length];
          return p.across > across === q.across > across
            ? []
            : [p.near + ((across - p.across) / (q.across - p.across)) * (q.near - p.near)];
        }),
      ),
    );
  const visible: Point[] = [low, high],
    hidden: Point[] = [],
    taken = [seen(low).across, seen(high).across];
  const ordered = corners.map((corner) => ({ corner, ...seen(corner) })).sort((a, b) => b.near - a.near);
  for (const { corner, across, near } of ordered) {
    if (taken.some((t) => Math.abs(t - across) < ONE_EDGE)) continue;
    taken.push(across);
    const isHidden = [-ONE_EDGE, ONE_EDGE].every((by) => nearestAt(across + by) > near + HIDES);
    (isHidden ? hidden : visible).push(corner);
  }
  return { visible, hidden };
}

/** Of the outline of what a member covers, the lines that do not run along it. */
function endLines(hull: Ring, { along }: MemberAxis): Piece[] {
  const flat = Math.hypot(along[0], along[1]);
  return hull.flatMap((p, i) => {
    const q = hull[(i + 1) % hull.length],
      [dx, dy] = [q[0] - p[0], q[1] - p[1]],
      length = Math.hypot(dx, dy);
    return Math.abs(dx * along[1] - dy * along[0]) > 1e-6 * length * flat ? [segmentPiece(p, q)] : [];
  });
}

/** A member as a solid: its section along its line, in the space of its plane. */
export function memberBar(e: Member): Bar[] {
  const section = knownSection(e.section),
    axis = memberAxis(e),
    length = axis.length - e.back[0] - e.back[1];
  if (!section || !(length > 0)) return [];
  const place = placer(e, axis, section.b, section.h),
    // Seen from its start a section that is mirrored runs the other way round.
    rings = flatSection(section.rings).map((ring) => (e.mirrored ? [...ring].reverse() : ring));
  return [
    {
      start: rings.map((ring) => ring.map(([x, y]) => place(x, y, e.back[0]))),
      way: [axis.along[0] * length, axis.along[1] * length, axis.along[2] * length],
      corners: rings.map((ring) => ring.map((p, i) => isCorner(ring, i, p))),
    },
  ];
}

/** Arcs are drawn by chords, which turn by less than this (cosine) from one to the next: no edges. */
const ROUND = Math.cos(Math.PI / 7);

/** Does a ring turn at one of its points as no arc does? */
export function isCorner(ring: readonly Point[], i: number, [x, y]: Point): boolean {
  const [px, py] = ring[(i + ring.length - 1) % ring.length],
    [qx, qy] = ring[(i + 1) % ring.length],
    [ax, ay] = [x - px, y - py],
    [bx, by] = [qx - x, qy - y];
  return ax * bx + ay * by < ROUND * Math.hypot(ax, ay) * Math.hypot(bx, by);
}
