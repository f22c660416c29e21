import Flatbush from 'flatbush';
import { boxOfPoints, normalAngle, unionOf, type Point, type Polygon, type Ring } from '../geometry/index.ts';
import type { Wall } from '../model/index.ts';
import { nichedFaces, openedFaces, solidParts, withoutNiches } from './opened.ts';
import { asStraight, straightParts, wholeOf } from './straight-parts.ts';
import {
  beside,
  cornerCuts,
  endOf,
  meet,
  squareCut,
  type Cut,
  type End,
  type Meeting,
  type WallMeets,
} from './wall-ends.ts';
import {
  bandOf,
  nichesOf,
  openStretches,
  plainBody,
  pointAt,
  throughOpeningsOf,
  type WallBand,
} from './wall-geometry.ts';

/** Wall ends nearer than this are meant to meet (picks on one sheet differ by far less), millimetres. */
export const JOIN_TOLERANCE = 1;
/** A mitre longer than this many times the thicker wall is cut off square. */
const MITRE_LIMIT = 4;
/** Walls that go on within this angle (radians) of straight have no mitre to speak of where their faces differ. */
const NEARLY_STRAIGHT = Math.PI / 3;
/** A wall that meets another at less than 15 degrees (sine) runs along it rather than into it: it ends square. */
const GRAZING = 0.26;

/** Walls cut to their neighbours, before their bodies are united: quick enough for every stroke. */
export interface CutWalls {
  /** Body of each wall, cut or extended to its neighbours. Some overlap at tees. */
  bodies: Map<string, Ring>;
  /** What stands of a body between the openings of its wall, as a plan shows it; only of walls that have openings. */
  parts: Map<string, Ring[]>;
  /** Pieces that fill cut-off corners between bodies, by the wall after whose end they come. */
  wedges: Map<string, Ring[]>;
  /** How the ends of straight walls meet others: by the wall's id, of those that do. */
  meets: Map<string, WallMeets>;
  /** The two long faces of each wall as they show, and its ends where they are free: x0, y0, x1, y1; by the wall's id. */
  faces: Map<string, (readonly [number, number, number, number])[]>;
}

export interface JoinedWalls {
  bodies: Map<string, Ring>;
  /** The solid outlines of all bodies together: outer rings with holes. */
  outlines: Polygon[];
}

/** Joins walls at corners and tees into solid outlines without overlap or gap, at any angle. */
export function joinWalls(walls: readonly Wall[]): JoinedWalls {
  const cut = cutWalls(walls);
  return { bodies: cut.bodies, outlines: unionOf([...shownParts(cut), ...wedgesOf(cut)]) };
}

/** What shows of all walls on a plan, before it is united: whole bodies, or what openings leave of them. */
export const shownParts = ({ bodies, parts }: Pick<CutWalls, 'bodies' | 'parts'>): Ring[] =>
  [...bodies].flatMap(([id, body]) => parts.get(id) ?? [body]);

/** All wedges. */
export const wedgesOf = ({ wedges }: Pick<CutWalls, 'wedges'>): Ring[] => [...wedges.values()].flat();

/** Cuts walls to one another at corners and tees, at any angle; bent ones by the straight parts that they are made of. */
export function cutWalls(given: readonly Wall[]): CutWalls {
  const walls = asStraight(given),
    bent = new Set(given.filter((w) => w.curve).map((w) => w.id)),
    ownerOf = (id: string) => (bent.has(wholeOf(id)) ? wholeOf(id) : id);
  const bands = walls.map(bandOf).filter((b) => b.length > 0);
  const wedges: CutWalls['wedges'] = new Map();
  const addWedge = ({ band }: End, ring: Ring) => {
    const id = ownerOf(band.id),
      list = wedges.get(id);
    if (list) list.push(ring);
    else wedges.set(id, [ring]);
  };
  const cuts = new Map<string, { start: Cut; end: Cut }>(),
    meets: CutWalls['meets'] = new Map();
  for (const band of bands)
    cuts.set(band.id, { start: squareCut(endOf(band, true)), end: squareCut(endOf(band, false)) });
  const setCut = (end: End, cut: Cut) => {
    const entry = cuts.get(end.band.id)!;
    if (end.atStart) entry.start = cut;
    else entry.end = cut;
  };
  const setMeeting = ({ band, atStart }: End, meeting: Meeting) => {
    const known = meets.get(band.id) ?? { start: null, end: null, cuts: cuts.get(band.id)! };
    meets.set(band.id, { ...known, [atStart ? 'start' : 'end']: meeting });
  };
  const runs = new Map(walls.flatMap((w) => (w.runsThrough ? [[w.id, w.runsThrough] as const] : []))),
    runsOn = ({ band, atStart }: End) => runs.get(band.id)?.includes(atStart ? 'from' : 'to') === true;
  const bandsAt = bandFinder(bands);
  for (const ends of nodesOf(bands)) {
    const through = throughBand(bandsAt(ends[0].node), ends);
    if (through)
      for (const end of ends) {
        const cut = teeCut(end, through);
        setCut(end, cut ?? squareCut(end));
        if (cut) setMeeting(end, { kind: 'tee', node: end.node, other: through.id });
      }
    else if (ends.length > 1) joinNode(ends, { setCut, addWedge, setMeeting, runsOn });
  }
  const bodies = new Map<string, Ring>();
  const faces: CutWalls['faces'] = new Map(),
    parts: CutWalls['parts'] = new Map(),
    open = new Map(walls.map((w) => [w.id, openStretches(throughOpeningsOf(w))])),
    niches = new Map(walls.flatMap((w) => (w.openings ? [[w.id, nichesOf(w)] as const] : [])));
  for (const wall of given) if (wall.curve) addBent(wall, cuts, { bodies, parts, faces });
  for (const band of bands) {
    if (ownerOf(band.id) !== band.id) continue;
    const { start, end } = cuts.get(band.id)!;
    const body = bodyBetween({ start, end }),
      gaps = open.get(band.id)!,
      recesses = niches.get(band.id) ?? [];
    bodies.set(band.id, body);
    if (gaps.length + recesses.length > 0)
      parts.set(band.id, withoutNiches(solidParts(body, band, gaps), band, recesses));
    const long = [[...start.right, ...end.left] as const, [...end.right, ...start.left] as const];
    const whole = [
      ...long,
      ...[start, end].filter((cut) => cut.isFree).map((cut) => [...cut.left, ...cut.right] as const),
    ];
    faces.set(band.id, nichedFaces(gaps.length > 0 ? openedFaces(whole, band, gaps) : whole, band, recesses));
  }
  for (const id of meets.keys()) if (ownerOf(id) !== id || bent.has(id)) meets.delete(id);
  return { bodies, parts, wedges, meets, faces };
}

/** The body of a straight wall. Seen along it the far end's left is its right: its direction leads back. */
export const bodyBetween = ({ start, end }: { start: Cut; end: Cut }): Ring =>
  withoutRepeats([start.right, end.left, ...end.between, end.right, start.left, ...start.between]);

/** The two long sides of a part as it is cut, in the order of the ring: its right one from the start, its left one back. */
const sidesOf = ({
  start,
  end,
}: {
  start: Cut;
  end: Cut;
}): { right: [Point, Point]; left: [Point, Point] } => ({
  right: [start.right, end.left],
  left: [end.right, start.left],
});

/** A bent wall of its parts, which share the lines on which they meet. */
function addBent(
  wall: Wall,
  cuts: ReadonlyMap<string, { start: Cut; end: Cut }>,
  { bodies, parts, faces }: Pick<CutWalls, 'bodies' | 'parts' | 'faces'>,
): void {
  const all = straightParts(wall).map((p) => ({
      cut: cuts.get(p.wall.id)!,
      isOpen: throughOpeningsOf(p.wall).length > 0,
      band: p.band,
      slice: p.slice,
      niches: nichesOf(p.wall),
    })),
    ringOf = (some: typeof all): Ring => {
      return withoutRepeats([
        ...some.flatMap(({ cut }) => sidesOf(cut).right),
        ...some.at(-1)!.cut.end.between,
        ...[...some].reverse().flatMap(({ cut }) => sidesOf(cut).left),
        ...some[0].cut.start.between,
      ]);
    };
  bodies.set(wall.id, ringOf(all));
  const standing: (typeof all)[] = [];
  all.forEach((part, i) => {
    if (part.isOpen) return;
    if (i > 0 && !all[i - 1].isOpen) standing.at(-1)!.push(part);
    else standing.push([part]);
  });
  const niched = (run: typeof all): Ring[] =>
    run.reduce((rings, { band, niches, slice }) => withoutNiches(rings, band, niches, slice), [ringOf(run)]);
  if (standing.length !== 1 || standing[0].length !== all.length || all.some((p) => p.niches.length > 0))
    parts.set(wall.id, standing.flatMap(niched));
  const line = (p: Point, q: Point) => [...p, ...q] as const;
  faces.set(wall.id, [
    ...standing.flat().flatMap(({ cut, band, niches }) => {
      const { right, left } = sidesOf(cut);
      return nichedFaces([line(...right), line(...left)], band, niches);
    }),
    // Free ends, and jambs.
    ...standing.flatMap((run) => [
      ...(run[0] !== all[0] || run[0].cut.start.isFree
        ? [line(run[0].cut.start.left, run[0].cut.start.right)]
        : []),
      ...(run.at(-1) !== all.at(-1) || run.at(-1)!.cut.end.isFree
        ? [line(run.at(-1)!.cut.end.left, run.at(-1)!.cut.end.right)]
        : []),
    ]),
  ]);
}

/** Answers which bands may hold a point, by an index over their boxes. */
function bandFinder(bands: readonly WallBand[]): (p: Point) => WallBand[] {
  if (bands.length === 0) return () => [];
  const index = new Flatbush(bands.length);
  for (const b of bands) index.add(...boxOfPoints(plainBody(b)));
  index.finish();
  return ([x, y]) =>
    index
      .search(x - JOIN_TOLERANCE, y - JOIN_TOLERANCE, x + JOIN_TOLERANCE, y + JOIN_TOLERANCE)
      .map((i) => bands[i]);
}

/** Groups wall ends that meet. */
function nodesOf(bands: readonly WallBand[]): End[][] {
  const cells = new Map<string, End[][]>();
  const nodes: End[][] = [];
  const cell = (v: number) => Math.floor(v / JOIN_TOLERANCE);
  for (const band of bands) {
    for (const atStart of [true, false]) {
      const end = endOf(band, atStart);
      const cx = cell(end.node[0]),
        cy = cell(end.node[1]);
      let home: End[] | undefined;
      for (let i = -1; i <= 1 && !home; i++) {
        for (let j = -1; j <= 1 && !home; j++) {
          home = cells
            .get(`${cx + i},${cy + j}`)
            ?.find((ends) => distance(ends[0].node, end.node) <= JOIN_TOLERANCE);
        }
      }
      if (home) {
        home.push({ ...end, node: home[0].node });
        continue;
      }
      const fresh = [end];
      nodes.push(fresh);
      const key = `${cx},${cy}`;
      const list = cells.get(key);
      if (list) list.push(fresh);
      else cells.set(key, [fresh]);
    }
  }
  return nodes;
}

const distance = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** The wall whose body the node lies in, away from that wall's own ends: the node is a tee on it. */
function throughBand(bands: readonly WallBand[], ends: readonly End[]): WallBand | null {
  const [x, y] = ends[0].node;
  const own = new Set(ends.map((e) => e.band.id));
  let best: WallBand | null = null,
    bestInside = -Infinity;
  for (const band of bands) {
    if (own.has(band.id)) continue;
    const rx = x - band.from[0],
      ry = y - band.from[1];
    const along = rx * band.ux + ry * band.uy;
    if (along <= JOIN_TOLERANCE || along >= band.length - JOIN_TOLERANCE) continue;
    const side = -rx * band.uy + ry * band.ux;
    const inside = Math.min(band.left - side, side + band.right);
    if (inside < -JOIN_TOLERANCE || inside <= bestInside) continue;
    best = band;
    bestInside = inside;
  }
  return best;
}

/**
 * Cuts an end to the wall it runs into: each face reaches its middle at least, so that no gap is left, and comes out nowhere.
 * What already lies within that wall stays: it may be the corner of both.
 */
function teeCut(end: End, through: WallBand): Cut | null {
  if (Math.abs(end.dx * through.uy - end.dy * through.ux) < GRAZING) return null;
  const middle = (through.left - through.right) / 2;
  // The far face is the one beyond the node, as the end comes from its other end.
  const isFromLeft = end.dy * through.ux - end.dx * through.uy > 0;
  const reach = (own: Point, side: number) => {
    const hit = meet(own, end.dx, end.dy, pointAt(through, 0, side), through.ux, through.uy);
    return hit && (hit[0] - own[0]) * end.dx + (hit[1] - own[1]) * end.dy;
  };
  const cut = (left: number): Point | null => {
    const own = beside(end, left),
      least = reach(own, middle),
      most = reach(own, isFromLeft ? -through.right : through.left);
    if (least === null || most === null) return null;
    const t = Math.max(Math.min(0, least), most);
    return [own[0] + t * end.dx, own[1] + t * end.dy];
  };
  const left = cut(end.left),
    right = cut(-end.right);
  return left && right ? { left, right, between: [], isFree: true } : null;
}

interface Joining {
  setCut(end: End, cut: Cut): void;
  addWedge(after: End, ring: Ring): void;
  setMeeting(end: End, meeting: Meeting): void;
  /** Has somebody said that a wall runs through at this end? */ runsOn(end: End): boolean;
}

/** Mitres the ends at a node against their neighbours, going round it; of two one may run through. */
function joinNode(ends: readonly End[], joining: Joining): void {
  const { setCut, addWedge } = joining;
  if (ends.length === 2 && joinThrough(ends[0], ends[1], joining)) return;
  let corners = 0;
  const around = [...ends].sort((a, b) => a.angle - b.angle);
  const lefts = new Map<End, Point>(),
    rights = new Map<End, Point>();
  around.forEach((end, i) => {
    const next = around[(i + 1) % around.length];
    const own = beside(end, end.left),
      others = beside(next, -next.right);
    const corner = meet(own, end.dx, end.dy, others, next.dx, next.dy);
    const thickest = Math.max(end.left + end.right, next.left + next.right);
    const reach = corner ? distance(corner, end.node) : Infinity;
    const along = corner
      ? Math.max(
          (corner[0] - end.node[0]) * end.dx + (corner[1] - end.node[1]) * end.dy,
          (corner[0] - end.node[0]) * next.dx + (corner[1] - end.node[1]) * next.dy,
        )
      : 0;
    const shortest = Math.min(end.band.length, next.band.length);
    // Inside a bend the corner may lie far along both walls, but not past their other ends.
    if (corner && (reach <= MITRE_LIMIT * thickest || along > 0) && along < shortest) {
      lefts.set(end, corner);
      rights.set(next, corner);
      corners++;
      return;
    }
    const between = normalAngle(next.angle - end.angle);
    if (Math.abs(between - Math.PI) < NEARLY_STRAIGHT) {
      // Faces of unequal walls in line: both end on the line that halves the angle, with a step between them.
      const half = end.angle + between / 2;
      const cut = (p: Point, e: End) => meet(p, e.dx, e.dy, end.node, Math.cos(half), Math.sin(half)) ?? p;
      const [a, b] = [cut(own, end), cut(others, next)];
      lefts.set(end, a);
      rights.set(next, b);
      addWedge(end, bridge(end, next, distance(a, end.node) < distance(b, end.node) ? a : b));
      return;
    }
    lefts.set(end, own);
    rights.set(next, others);
    addWedge(end, [end.node, others, own]);
  });
  for (const end of around)
    setCut(end, { left: lefts.get(end)!, right: rights.get(end)!, between: [end.node], isFree: false });
  if (ends.length === 2 && corners === 2) setCorner(ends[0], ends[1], null, joining);
}

function setCorner(a: End, b: End, through: End | null, { setMeeting }: Joining): void {
  for (const [end, other] of [
    [a, b],
    [b, a],
  ])
    setMeeting(end, {
      kind: 'corner',
      node: end.node,
      other: other.band.id,
      otherAtStart: other.atStart,
      through: through === null ? null : through === end ? 'this' : 'other',
    });
}

/** Cuts two ends of which somebody has said that one runs through; false where none does, or it cannot. */
function joinThrough(a: End, b: End, joining: Joining): boolean {
  const through = [a, b].find(joining.runsOn);
  if (!through || Math.abs(a.dx * b.dy - a.dy * b.dx) < GRAZING) return false;
  const other = through === a ? b : a,
    cuts = cornerCuts({ end: through, core: through }, { end: other, core: other }, true);
  const shortest = Math.min(a.band.length, b.band.length);
  const reach = [a, b].flatMap((e) =>
    [cuts.through, cuts.other].flatMap(({ left, right }) =>
      [left, right].map((p) => (p[0] - e.node[0]) * e.dx + (p[1] - e.node[1]) * e.dy),
    ),
  );
  if (!(Math.max(...reach) < shortest)) return false;
  joining.setCut(through, cuts.through);
  joining.setCut(other, cuts.other);
  setCorner(a, b, through, joining);
  return true;
}

/** Half the width of a bridge over a cut, millimetres: enough to outlast any rounding. */
const BRIDGE = 1;

/** A thin piece over the cut between two bodies that share only part of an edge, inside both of them. */
function bridge(end: End, next: End, corner: Point): Ring {
  const off = (p: Point, e: End): Point => [p[0] + e.dx * BRIDGE, p[1] + e.dy * BRIDGE];
  return [off(end.node, end), off(corner, end), off(corner, next), off(next.node, next)];
}

function withoutRepeats(ring: readonly Point[]): Ring {
  return ring.filter((p, i) => distance(p, ring[(i + ring.length - 1) % ring.length]) > 1e-9);
}
