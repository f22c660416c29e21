import {
  boltOf,
  flatSlots,
  joinedFrame,
  onPlate,
  perpendicular,
  sectionX,
  shapeParts,
  type BoltSet,
  type JoinedFrame,
  type PlacedMember,
  type PlatePart,
  type Shape,
} from '../framing/index.ts';
import { cross3, minus3, ringTurning, type Frame, type ModelPoint, type Point } from '../geometry/index.ts';
import { isCorner, looseKind, type Bar, type Loose } from '../kinds/index.ts';
import {
  cutAt,
  type KnownSection,
  type Member,
  type MemberCut,
  type Model,
  type PlaneEntity,
} from '../model/index.ts';
import { frameOf } from '../planes/index.ts';
import { meshOfBars } from './bars.ts';
import type { Mesh } from './mesh.ts';

const WORLD: Frame = { origin: [0, 0, 0], across: [1, 0, 0], up: [0, 1, 0] };

interface OfMember {
  placed: PlacedMember;
  plates: PlatePart[];
  bolts: BoltSet[];
}
const grouped = new WeakMap<JoinedFrame, Map<string, OfMember>>();

/** Members with the plates and bolts of their joints, by id. */
function partsByMember(frame: JoinedFrame): Map<string, OfMember> {
  let map = grouped.get(frame);
  if (!map) {
    map = new Map(frame.members.map((placed) => [placed.member.id, { placed, plates: [], bolts: [] }]));
    for (const plate of frame.plates) map.get(plate.owner)?.plates.push(plate);
    for (const set of frame.bolts) map.get(set.owner)?.bolts.push(set);
    grouped.set(frame, map);
  }
  return map;
}

/** A member as it is cut, in coordinates of its own: z along it from its start, y up in its section. */
export interface OwnBars {
  bars: Bar[];
  /** Its bolt holes, each from one face of a wall to the other. */
  holes: { from: ModelPoint; to: ModelPoint; radius: number }[];
  /** The same for all that are of this section and cut so. */
  key: string;
  /** Where that stands in the model: its origin, and the directions of its z and x. */
  at: ModelPoint;
  z: ModelPoint;
  x: ModelPoint;
}

/** Null for a member whose section is not known. */
export function ownBarsOf(frame: JoinedFrame, id: string): OwnBars | null {
  const { placed } = partsByMember(frame).get(id)!,
    { section, from, to, along, right, member } = placed,
    length = Math.hypot(...minus3(to, from));
  if (!section || !(length > 0)) return null;
  const square: Shape = {
      start: { z: 0, kx: 0, ky: 0 },
      end: { z: length, kx: 0, ky: 0 },
      notches: [],
      holes: [],
    },
    shape = frame.shapes.get(id) ?? square,
    { start, end, notches, holes } = shape;
  return {
    bars: shapeBars(
      { ...placed, from: [0, 0, 0], along: [0, 0, 1], up: [0, 1, 0], right: [-1, 0, 0] },
      section,
      shape,
    ),
    holes: holes.map(({ through, x, y, z, d, depth }) => {
      const [u, v] = through === 'web' ? [depth / 2, 0] : [0, depth / 2],
        s = member.mirrored ? -1 : 1;
      return {
        from: [s * -(x - u), y - v, z] as ModelPoint,
        to: [s * -(x + u), y + v, z] as ModelPoint,
        radius: d / 2,
      };
    }),
    key: JSON.stringify([member.section, member.mirrored, start, end, notches, holes], (_, v: unknown) =>
      typeof v === 'number' ? Math.round(v * 1e6) / 1e6 : v,
    ),
    at: from,
    z: along,
    x: [-right[0], -right[1], -right[2]],
  };
}

/** The surface of a member alone, as it is cut, in the model. */
export function meshOfMember(model: Model, id: string): Mesh {
  const frame = joinedFrame(model),
    { placed } = partsByMember(frame).get(id)!,
    shape = frame.shapes.get(id),
    { member, section } = placed;
  return shape && section
    ? meshOfBars(shapeBars(placed, section, shape), WORLD)
    : meshOfBars(looseKind(member).bars?.(member) ?? [], frameOf(placed.on));
}

/** The surface of a member with what its joints put at its ends, in the model; null for one whose section is not known. */
export function memberBody(frame: JoinedFrame, member: Member, on: PlaneEntity): (() => Mesh) | null {
  const parts = partsByMember(frame).get(member.id),
    shape = frame.shapes.get(member.id),
    plain = looseKind(member as Loose).bars?.(member as Loose) ?? [];
  if (plain.length === 0) return null;
  return () => {
    const own =
        shape && parts?.placed.section
          ? meshOfBars(shapeBars(parts.placed, parts.placed.section, shape), WORLD)
          : meshOfBars(plain, frameOf(on)),
      more = [...(parts?.plates ?? []).map((p) => plateBar(p)), ...(parts?.bolts ?? []).flatMap(boltBars)];
    return more.length === 0 ? own : together([own, meshOfBars(more, WORLD)]);
  };
}

function together(meshes: readonly Mesh[]): Mesh {
  const join = (of: (m: Mesh) => Float64Array) => {
    const all = new Float64Array(meshes.reduce((n, m) => n + of(m).length, 0));
    let at = 0;
    for (const m of meshes) {
      all.set(of(m), at);
      at += of(m).length;
    }
    return all;
  };
  return { triangles: join((m) => m.triangles), edges: join((m) => m.edges) };
}

/** A member as it is cut, in parts that share their seams: no edges run along these. */
function shapeBars(m: PlacedMember, section: KnownSection, shape: Shape): Bar[] {
  const x = sectionX(m),
    { from, up, along } = m;
  return shapeParts(section, shape).map(({ outline, start, end }): Bar => {
    const place = ([px, py]: Point, cut: MemberCut): ModelPoint => {
      const z = cutAt(cut, [px, py]);
      return [0, 1, 2].map((i) => from[i] + px * x[i] + py * up[i] + z * along[i]) as unknown as ModelPoint;
    };
    const rings = outline.map((ring) => (m.member.mirrored ? [...ring].reverse() : ring));
    return {
      start: rings.map((ring) => ring.map((p) => place(p, start))),
      far: rings.map((ring) => ring.map((p) => place(p, end))),
      way: along,
      corners: rings.map((ring) => ring.map((p, i) => isCorner(ring, i, p) && !isSeam(section, shape, p))),
    };
  });
}

/** A hole of a piece in its own coordinates (see OwnBars): its middle, its axis (one of the three, or none of them), its diameter. */
export interface PieceHole {
  at: ModelPoint;
  axis: 'x' | 'y' | 'z' | null;
  d: number;
}

/** A member with the plates that are welded to it, in its own coordinates. */
export interface PieceSurfaces {
  surfaces: { id: string; mesh: Mesh }[];
  holes: PieceHole[];
  /** Ways in which plates face, and where along the member. */
  plates: { axis: PieceHole['axis']; z: number }[];
}

const axisOf = (v: ModelPoint): PieceHole['axis'] =>
  (['x', 'y', 'z'] as const).find((_, i) => Math.abs(v[i]) > 1 - 1e-4) ?? null;

/** Null for a member whose section is not known. */
export function pieceSurfaces(
  frame: JoinedFrame,
  id: string,
  welded: readonly PlatePart[],
): PieceSurfaces | null {
  const own = ownBarsOf(frame, id);
  if (!own) return null;
  const { placed } = partsByMember(frame).get(id)!,
    axes = [own.x, placed.up, own.z],
    turned = (v: ModelPoint): ModelPoint =>
      axes.map((a) => v[0] * a[0] + v[1] * a[1] + v[2] * a[2]) as unknown as ModelPoint,
    within = (p: ModelPoint): ModelPoint => turned(minus3(p, own.at));
  const plates = welded.map((plate): PlatePart => ({
    ...plate,
    origin: within(plate.origin),
    x: turned(plate.x),
    y: turned(plate.y),
  }));
  return {
    surfaces: [
      { id, mesh: meshOfBars(own.bars, WORLD) },
      ...plates.map((p) => ({ id: p.id, mesh: meshOfBars([plateBar(p, flatSlots(p))], WORLD) })),
    ],
    holes: [
      ...own.holes.map(({ from, to, radius }): PieceHole => ({
        at: [0, 1, 2].map((i) => (from[i] + to[i]) / 2) as unknown as ModelPoint,
        axis: axisOf(
          minus3(to, from).map((v) => v / Math.hypot(...minus3(to, from))) as unknown as ModelPoint,
        ),
        d: 2 * radius,
      })),
      ...plates.flatMap((p) =>
        p.holes.map(({ at, d }): PieceHole => ({
          at: onPlate(p)(at, p.thickness / 2),
          axis: axisOf(cross3(p.x, p.y)),
          d,
        })),
      ),
    ],
    plates: plates.map((p) => ({
      axis: axisOf(cross3(p.x, p.y)),
      z: onPlate(p)([0, 0], p.thickness / 2)[2],
    })),
  };
}

const isSeam = ({ h }: KnownSection, { notches }: Shape, [, y]: Point): boolean =>
  notches.some((n) => Math.abs(y - (n.side === 'top' ? h / 2 - n.depth : n.depth - h / 2)) < 1e-3);

/** A plate with some of its openings; those that bolts fill need not be shown. */
function plateBar(plate: PlatePart, openings: readonly (readonly Point[])[] = []): Bar {
  const place = onPlate(plate),
    normal = cross3(plate.x, plate.y),
    // Seen from its lower face to its upper one it runs the other way round.
    ring = [...plate.outline].reverse().map((p) => place(p)),
    cuts = openings.map((o) => ringTurning(o, true).map((p) => place(p)));
  return {
    start: [ring, ...cuts],
    way: normal.map((v) => v * plate.thickness) as unknown as ModelPoint,
    corners: [ring.map(() => !plate.drawn), ...cuts.map((c) => c.map(() => false))],
  };
}

/** Chords of a round hole. */
const ROUND = 24;
const roundHole = ({ at, d }: PlatePart['holes'][number]): Point[] =>
  Array.from({ length: ROUND }, (_, i): Point => {
    const angle = (2 * Math.PI * i) / ROUND;
    return [at[0] + (d / 2) * Math.cos(angle), at[1] + (d / 2) * Math.sin(angle)];
  });

const ownBodies = new WeakMap<JoinedFrame, ReadonlyMap<string, Bar[]>>();

/** A plate with all that is cut out of it, or bolts, that are drawn by themselves, in the model; null for one of which nothing is made. */
export function ownBody(frame: JoinedFrame, id: string): (() => Mesh) | null {
  let bodies = ownBodies.get(frame);
  if (!bodies) {
    const made = new Map<string, Bar[]>(),
      add = (owner: string, bars: Bar[]) => made.set(owner, [...(made.get(owner) ?? []), ...bars]);
    for (const p of frame.plates)
      if (p.form === null) add(p.owner, [plateBar(p, [...p.holes.map(roundHole), ...flatSlots(p)])]);
    for (const b of frame.bolts) if (frame.ownBolts.has(b.owner)) add(b.owner, boltBars(b));
    ownBodies.set(frame, (bodies = made));
  }
  const bars = bodies.get(id);
  return bars ? () => meshOfBars(bars, WORLD) : null;
}

/** Bolts as six-sided bars from head to nut; of anchors what stands out. */
export function boltBars({ d, at, axis, grip, anchor }: BoltSet): Bar[] {
  const size = boltOf(d),
    u = perpendicular(axis),
    v = cross3(axis, u),
    r = size.flats / Math.sqrt(3),
    long = anchor ? size.nut : size.head + grip + size.nut;
  return at.map((p): Bar => {
    const head = p.map((c, i) => c - axis[i] * (anchor ? size.nut : size.head)) as unknown as ModelPoint,
      ring = [5, 4, 3, 2, 1, 0].map((k): ModelPoint => {
        const [c, s] = [r * Math.cos((k * Math.PI) / 3), r * Math.sin((k * Math.PI) / 3)];
        return [0, 1, 2].map((i) => head[i] + c * u[i] + s * v[i]) as unknown as ModelPoint;
      });
    return {
      start: [ring],
      way: axis.map((c) => c * long) as unknown as ModelPoint,
      corners: [ring.map(() => false)],
    };
  });
}
