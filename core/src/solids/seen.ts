import Flatbush from 'flatbush';
import { planeFromWorld, type Frame, type Point } from '../geometry/index.ts';
import type { Model, PlaneEntity } from '../model/index.ts';
import { depthOf, frameOf, viewFrame, type Outlook } from '../planes/index.ts';
import { bodiesOf } from './building.ts';
import type { Mesh } from './mesh.ts';

/** What is seen of a building from a plane, square on: lines on the plane, millimetres, and where the plane's near side cuts solids. */
export interface Seen {
  lines: SeenLine[];
  cuts: SeenLine[];
}
export interface SeenLine {
  from: Point;
  to: Point;
  /** The element whose edge it is. */
  element: string;
}

/** A place before a plane: its x and y there, and how far it lies towards whoever looks. */
type Place = readonly [x: number, y: number, near: number];

/** What lies nearer than this to a surface, millimetres, is on it and not hidden by it. */
const ON_SURFACE = 0.5;
/** Shorter than this, millimetres, is nothing to see. */
const SHORTEST = 0.1;
/** A triangle with less area than this seen from the plane, square millimetres, is seen edge on. */
const EDGE_ON = 1e-3;

/**
 * The edges of all solids that are seen from a plane, without what others hide, within the plane's depth: an elevation, or what lies behind
 * a section. What the depth cuts is given by itself.
 */
export const seenFrom = (model: Model, plane: PlaneEntity): Seen =>
  seenIn(bodiesOf(model), frameOf(plane), depthOf(plane));

/** The same from somewhere round the building and above it, without perspective: of one storey, or of all. */
export const seenFromOutlook = (model: Model, outlook: Outlook, storeyId?: string): Seen =>
  seenIn(
    bodiesOf(model).filter((b) => storeyId === undefined || b.on.id === storeyId),
    viewFrame(outlook),
    { before: Infinity, behind: Infinity },
  );

/** The edges of some surfaces that are seen square on from before a frame, without what others hide. */
export const seenOfSurfaces = (surfaces: readonly { id: string; mesh: Mesh }[], frame: Frame): SeenLine[] =>
  seenIn(
    surfaces.map(({ id, mesh }) => ({ element: { id }, lift: 0, mesh: () => mesh })),
    frame,
    { before: Infinity, behind: Infinity },
  ).lines;

function seenIn(
  bodies: readonly { element: { id: string }; lift: number; mesh(): Mesh }[],
  frame: Frame,
  { before, behind }: { before: number; behind: number },
): Seen {
  const edges: { from: Place; to: Place; element: string }[] = [],
    triangles: Triangle[] = [],
    cuts: SeenLine[] = [];
  for (const { element, lift, mesh: made } of bodies) {
    const mesh = made(),
      at = (list: Float64Array, i: number): Place => {
        const { point, before: near } = planeFromWorld(frame, [list[i], list[i + 1], list[i + 2] + lift]);
        return [point[0], point[1], near];
      };
    for (let i = 0; i < mesh.edges.length; i += 6) {
      const clipped = clippedEdge(at(mesh.edges, i), at(mesh.edges, i + 3), -behind, before);
      if (clipped) edges.push({ from: clipped[0], to: clipped[1], element: element.id });
    }
    for (let i = 0; i < mesh.triangles.length; i += 9) {
      const corners = [at(mesh.triangles, i), at(mesh.triangles, i + 3), at(mesh.triangles, i + 6)] as const,
        cut = cutOf(corners, before);
      if (cut) cuts.push({ from: cut[0], to: cut[1], element: element.id });
      triangles.push(...clippedTriangle(corners, -behind, before));
    }
  }
  return { lines: withoutDoubles(visible(edges, triangles)), cuts: withoutDoubles(cuts) };
}

/** The part of an edge between two depths. */
function clippedEdge(p: Place, q: Place, far: number, near: number): [Place, Place] | null {
  let [from, to] = [0, 1];
  const rise = q[2] - p[2];
  for (const [bound, sign] of [
    [far, 1],
    [near, -1],
  ] as const) {
    if (!Number.isFinite(bound)) continue;
    const a = sign * (p[2] - bound) + ON_PLANE,
      b = sign * rise;
    if (b === 0) {
      if (a < 0) return null;
    } else if (b > 0) from = Math.max(from, -a / b);
    else to = Math.min(to, -a / b);
  }
  return to - from > 1e-12 ? [along(p, q, from), along(p, q, to)] : null;
}
/** What ends on a bound is within it. */
const ON_PLANE = 1e-6;

const along = (p: Place, q: Place, t: number): Place => [
  p[0] + t * (q[0] - p[0]),
  p[1] + t * (q[1] - p[1]),
  p[2] + t * (q[2] - p[2]),
];

/** What of a triangle lies between two depths, as triangles. */
function clippedTriangle(
  corners: readonly [Place, Place, Place],
  far: number,
  near: number,
): [Place, Place, Place][] {
  let ring: Place[] = [...corners];
  for (const [bound, sign] of [
    [far, 1],
    [near, -1],
  ] as const)
    if (Number.isFinite(bound)) ring = halfOf(ring, bound, sign);
  return ring.slice(1, -1).map((p, i): [Place, Place, Place] => [ring[0], p, ring[i + 2]]);
}

function halfOf(ring: readonly Place[], bound: number, sign: number): Place[] {
  return ring.flatMap((p, i) => {
    const q = ring[(i + 1) % ring.length],
      a = sign * (p[2] - bound),
      b = sign * (q[2] - bound),
      kept = a >= 0 ? [p] : [];
    return (a > 0 && b < 0) || (a < 0 && b > 0) ? [...kept, along(p, q, a / (a - b))] : kept;
  });
}

/** Where a triangle goes through the near side of the depth. */
function cutOf([p, q, r]: readonly [Place, Place, Place], near: number): [Point, Point] | null {
  if (!Number.isFinite(near)) return null;
  const points: Point[] = [];
  for (const [a, b] of [
    [p, q],
    [q, r],
    [r, p],
  ] as const) {
    const [before, after] = [a[2] - near, b[2] - near];
    if (before >= 0 !== after >= 0) {
      const [x, y] = along(a, b, before / (before - after));
      points.push([x, y]);
    }
  }
  return points.length === 2 && distance(points[0], points[1]) > SHORTEST ? [points[0], points[1]] : null;
}

const distance = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** The parts of edges that no triangle hides. */
function visible(
  edges: readonly { from: Place; to: Place; element: string }[],
  triangles: readonly Triangle[],
): SeenLine[] {
  // The nearest first: most of what is hidden is hidden by few.
  const opaque = triangles
    .filter((t) => Math.abs(area(...t)) > EDGE_ON)
    .map((corners) => ({ corners, near: Math.max(corners[0][2], corners[1][2], corners[2][2]) }))
    .sort((a, b) => b.near - a.near);
  if (opaque.length === 0) return edges.flatMap(({ from, to, element }) => lineOf(from, to, element, 0, 1));
  const index = new Flatbush(opaque.length);
  for (const {
    corners: [a, b, c],
  } of opaque)
    index.add(
      Math.min(a[0], b[0], c[0]),
      Math.min(a[1], b[1], c[1]),
      Math.max(a[0], b[0], c[0]),
      Math.max(a[1], b[1], c[1]),
    );
  index.finish();
  return edges.flatMap(({ from, to, element }) => {
    const hidden = new Hidden(),
      far = Math.min(from[2], to[2]) + ON_SURFACE,
      before = index
        .search(
          Math.min(from[0], to[0]),
          Math.min(from[1], to[1]),
          Math.max(from[0], to[0]),
          Math.max(from[1], to[1]),
          (i) => opaque[i].near > far,
        )
        .sort((a, b) => a - b);
    for (const i of before) {
      hiddenBy(from, to, opaque[i].corners, hidden);
      if (hidden.isAll) return [];
    }
    return hidden.left().flatMap(([low, high]) => lineOf(from, to, element, low, high));
  });
}

type Triangle = readonly [Place, Place, Place];

/** Stretches of an edge that are hidden, shares of it, in order and apart. */
class Hidden {
  private list: [number, number][] = [];

  get isAll(): boolean {
    return this.list.length === 1 && this.list[0][0] <= 0 && this.list[0][1] >= 1;
  }

  add(from: number, to: number): void {
    const apart = this.list.filter(([a, b]) => b < from || a > to),
      meets = this.list.filter(([a, b]) => b >= from && a <= to);
    this.list = [
      ...apart,
      [Math.min(from, ...meets.map((m) => m[0])), Math.max(to, ...meets.map((m) => m[1]))] as [
        number,
        number,
      ],
    ].sort((a, b) => a[0] - b[0]);
  }

  /** What is not hidden. */
  left(): [number, number][] {
    const out: [number, number][] = [];
    let at = 0;
    for (const [from, to] of this.list) {
      if (from > at) out.push([at, from]);
      at = Math.max(at, to);
    }
    return at < 1 ? [...out, [at, 1]] : out;
  }
}

function lineOf(p: Place, q: Place, element: string, from: number, to: number): SeenLine[] {
  if (to <= from) return [];
  const [a, b] = [along(p, q, from), along(p, q, to)],
    line: SeenLine = { from: [a[0], a[1]], to: [b[0], b[1]], element };
  return distance(line.from, line.to) > SHORTEST ? [line] : [];
}

const area = (a: Place, b: Place, c: Place) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** Adds the stretch of an edge that lies behind a triangle: within it as it is seen, and farther. */
function hiddenBy(p: Place, q: Place, triangle: Triangle, hidden: Hidden): void {
  const whole = area(...triangle),
    [a, b, c] = whole > 0 ? triangle : [triangle[0], triangle[2], triangle[1]],
    range: [number, number] = [0, 1],
    near = (e: Place) =>
      (area(b, c, e) * a[2] + area(c, a, e) * b[2] + area(a, b, e) * c[2]) / Math.abs(whole),
    // Beside a steep triangle a hair is a long way in depth.
    steep = Math.hypot(near([a[0] + 1, a[1], 0]) - a[2], near([a[0], a[1] + 1, 0]) - a[2]),
    beside = Math.min(ALONG_SIDE, ON_SURFACE / (4 * steep + 1));
  for (const [u, v] of [
    [a, b],
    [b, c],
    [c, a],
  ] as const) {
    const length = distance([u[0], u[1]], [v[0], v[1]]);
    // Distances to the left of a side, at both ends of the edge.
    if (!narrow(range, area(u, v, p) / length + beside, area(u, v, q) / length + beside)) return;
  }
  if (narrow(range, near(p) - p[2] - ON_SURFACE, near(q) - q[2] - ON_SURFACE)) hidden.add(...range);
}
/** A side that an edge runs along, seen from the plane, takes it in: what lies behind it is hidden. */
const ALONG_SIDE = 1e-3;

/** Leaves of a range where a value that goes straight from one to another is above nothing; false where it nowhere is. */
function narrow(range: [number, number], atStart: number, atEnd: number): boolean {
  if (atStart <= 0 && atEnd <= 0) return false;
  const zero = atStart / (atStart - atEnd);
  if (atStart <= 0) range[0] = Math.max(range[0], zero);
  else if (atEnd <= 0) range[1] = Math.min(range[1], zero);
  return range[1] - range[0] > 1e-9;
}

/** Edges of two elements that lie on one another are drawn once. */
function withoutDoubles(lines: readonly SeenLine[]): SeenLine[] {
  const seen = new Set<string>();
  return lines.filter(({ from, to }) => {
    const ends = [from, to].map(([x, y]) => `${Math.round(x * 10)},${Math.round(y * 10)}`).sort(),
      key = ends.join(' ');
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
