import earcut from 'earcut';
import {
  cross3,
  dot3,
  heightAt,
  minus3,
  type Block,
  type ModelPoint,
  type Point,
} from '../geometry/index.ts';

/** A surface of flat triangles: nine figures each (three corners, counter-clockwise seen from outside), and the edges between its faces, six each. */
export interface Mesh {
  triangles: Float64Array;
  edges: Float64Array;
}

/** Corners nearer than this, millimetres, are one where faces are held against one another. */
const GRID = 1e-4;
/** What is lower than this, millimetres, is no face. */
const LEAST = 1e-6;

/** A side of a block, over the stretch from one point to the next, the body to its left. */
interface Panel {
  from: Point;
  to: Point;
  low: [number, number];
  high: [number, number];
}

/** A flat face: its rings, the first counter-clockwise seen from outside. */
interface Face {
  rings: ModelPoint[][];
  normal: ModelPoint;
}

/** The surface of blocks that stand side by side: sides that two of them share are within the solid and left out. */
export function meshOf(blocks: readonly Block[]): Mesh {
  const faces = facesOf(blocks);
  return { triangles: trianglesOf(faces), edges: edgesOf(faces) };
}

/** The triangles of that surface alone. */
export const surfaceOf = (blocks: readonly Block[]): Float64Array => trianglesOf(facesOf(blocks));

const facesOf = (blocks: readonly Block[]): Face[] => [
  ...blocks.flatMap(capsOf),
  ...freeSides(blocks.flatMap(panelsOf)).flatMap(faceOfPanel),
];

const place = (p: Point, z: number): ModelPoint => [p[0], p[1], z];

/** The upper and the lower face of a block. */
function capsOf({ outline, low, high }: Block): Face[] {
  const up = outline.map((ring) => ring.map((p) => place(p, heightAt(high, p)))),
    down = outline.map((ring) => [...ring].reverse().map((p) => place(p, heightAt(low, p))));
  return [up, down].flatMap((rings) => {
    const normal = normalOf(rings[0] ?? []);
    return normal ? [{ rings, normal }] : [];
  });
}

function panelsOf({ outline, low, high }: Block): Panel[] {
  return outline.flatMap((ring) =>
    ring.map((from, i): Panel => {
      const to = ring[(i + 1) % ring.length];
      return {
        from,
        to,
        low: [heightAt(low, from), heightAt(low, to)],
        high: [heightAt(high, from), heightAt(high, to)],
      };
    }),
  );
}

const key = ([x, y]: Point) => `${Math.round(x / GRID)},${Math.round(y / GRID)}`;

/** Sides without what lies against another block. */
function freeSides(panels: readonly Panel[]): Panel[] {
  const against = new Map<string, Panel[]>();
  for (const panel of panels) {
    const name = `${key(panel.to)} ${key(panel.from)}`,
      list = against.get(name);
    if (list) list.push(panel);
    else against.set(name, [panel]);
  }
  return panels.flatMap((panel) => {
    const others = against.get(`${key(panel.from)} ${key(panel.to)}`) ?? [];
    return others.reduce((left, other) => left.flatMap((part) => without(part, other)), [panel]);
  });
}

const level = ([a, b]: readonly [number, number]) => Math.abs(a - b) < GRID;

/** What of a side another one, seen from its own end, leaves free. Sides that rise are free wholly or not at all. */
function without(panel: Panel, other: Panel): Panel[] {
  const [low, high] = [other.low, other.high].map(([a, b]): [number, number] => [b, a]);
  if ([panel.low, panel.high, low, high].every(level)) {
    const parts: Panel[] = [];
    if (low[0] > panel.low[0] + GRID)
      parts.push({ ...panel, high: [Math.min(low[0], panel.high[0]), Math.min(low[1], panel.high[1])] });
    if (high[0] < panel.high[0] - GRID)
      parts.push({ ...panel, low: [Math.max(high[0], panel.low[0]), Math.max(high[1], panel.low[1])] });
    return low[0] >= panel.high[0] || high[0] <= panel.low[0] ? [panel] : parts;
  }
  const covers = [0, 1].every((i) => low[i] <= panel.low[i] + GRID && high[i] >= panel.high[i] - GRID);
  return covers ? [] : [panel];
}

function faceOfPanel({ from, to, low, high }: Panel): Face[] {
  if (high[0] - low[0] < LEAST && high[1] - low[1] < LEAST) return [];
  const ring = [place(from, low[0]), place(to, low[1])];
  if (high[1] - low[1] >= LEAST) ring.push(place(to, high[1]));
  if (high[0] - low[0] >= LEAST) ring.push(place(from, high[0]));
  const normal = normalOf(ring);
  return normal ? [{ rings: [ring], normal }] : [];
}

/** The direction out of which a ring is seen counter-clockwise (Newell's sum); null for one without area. */
function normalOf(ring: readonly ModelPoint[]): ModelPoint | null {
  if (ring.length < 3) return null;
  const [first] = ring;
  let sum: [number, number, number] = [0, 0, 0];
  for (let i = 1; i + 1 < ring.length; i++) {
    const [x, y, z] = cross3(minus3(ring[i], first), minus3(ring[i + 1], first));
    sum = [sum[0] + x, sum[1] + y, sum[2] + z];
  }
  const length = Math.hypot(...sum);
  return length < LEAST ? null : [sum[0] / length, sum[1] / length, sum[2] / length];
}

/** Two directions in a face, square to one another and to its normal. */
function axesOf(normal: ModelPoint): [ModelPoint, ModelPoint] {
  const helper: ModelPoint = Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0],
    u = cross3(helper, normal),
    k = Math.hypot(...u),
    across: ModelPoint = [u[0] / k, u[1] / k, u[2] / k];
  return [across, cross3(normal, across)];
}

function trianglesOf(faces: readonly Face[]): Float64Array {
  const out: number[] = [];
  for (const { rings, normal } of faces) {
    const [across, up] = axesOf(normal),
      points = rings.flat(),
      [origin] = points;
    const flat = points.flatMap((p) => {
      const from = minus3(p, origin);
      return [dot3(from, across), dot3(from, up)];
    });
    const holes: number[] = [];
    let count = 0;
    for (const ring of rings.slice(0, -1)) holes.push((count += ring.length));
    const corners = earcut(flat, holes);
    for (let i = 0; i < corners.length; i += 3) {
      const [a, b, c] = [corners[i], corners[i + 1], corners[i + 2]],
        turn =
          (flat[2 * b] - flat[2 * a]) * (flat[2 * c + 1] - flat[2 * a + 1]) -
          (flat[2 * b + 1] - flat[2 * a + 1]) * (flat[2 * c] - flat[2 * a]);
      for (const k of turn < 0 ? [a, c, b] : [a, b, c]) out.push(...points[k]);
    }
  }
  return Float64Array.from(out);
}

/**
 * The edges between faces that do not lie in one plane: along each line within each plane, what is run along both ways is no edge. Each
 * edge comes once, whichever of its two faces has it.
 */
function edgesOf(faces: readonly Face[]): Float64Array {
  const found = new Map<string, { line: number[]; normals: ModelPoint[] }>();
  for (const [, group] of groupedByPlane(faces))
    for (const [, run] of linesOf(group))
      for (const [p, q] of uncovered(run)) {
        const [a, b] = [nameOf(p), nameOf(q)],
          ends = a < b ? `${a} ${b}` : `${b} ${a}`,
          known = found.get(ends);
        if (known) known.normals.push(group[0].normal);
        else found.set(ends, { line: [...p, ...q], normals: [group[0].normal] });
      }
  return Float64Array.from(
    [...found.values()].filter(({ normals }) => !isRounded(normals)).flatMap(({ line }) => line),
  );
}

/** Upright faces that turn by less than this (cosine) at an edge are those of a bend, which has none. */
const BEND = Math.cos(Math.PI / 30);

const isRounded = (normals: readonly ModelPoint[]): boolean =>
  normals.length === 2 && normals.every((n) => Math.abs(n[2]) < 1e-9) && dot3(normals[0], normals[1]) > BEND;

const nameOf = ([x, y, z]: ModelPoint) =>
  `${Math.round(x / GRID)},${Math.round(y / GRID)},${Math.round(z / GRID)}`;

/** A direction and a distance, as far as they tell planes and lines from one another. */
const lineName = ([x, y, z]: ModelPoint, far: number) =>
  `${Math.round(x * 1e6)},${Math.round(y * 1e6)},${Math.round(z * 1e6)},${Math.round(far * 10)}`;

function groupedByPlane(faces: readonly Face[]): Map<string, Face[]> {
  const groups = new Map<string, Face[]>();
  for (const face of faces) {
    const { normal } = face,
      name = lineName(normal, dot3(normal, face.rings[0][0])),
      list = groups.get(name);
    if (list) list.push(face);
    else groups.set(name, [face]);
  }
  return groups;
}

interface Run {
  origin: ModelPoint;
  along: ModelPoint;
  /** Places along the line at which coverage changes, and by how much: forwards counts up. */
  ends: { t: number; by: number; p: ModelPoint }[];
}

/** The edges of faces of one plane, by the lines on which they lie. */
function linesOf(faces: readonly Face[]): Map<string, Run> {
  const runs = new Map<string, Run>();
  for (const { rings, normal } of faces)
    for (const ring of rings)
      ring.forEach((p, i) => {
        const q = ring[(i + 1) % ring.length],
          d = minus3(q, p),
          length = Math.hypot(...d);
        if (length < GRID) return;
        const forwards = d[0] > GRID || (d[0] > -GRID && (d[1] > GRID || (d[1] > -GRID && d[2] > 0))),
          k = (forwards ? 1 : -1) / length,
          along: ModelPoint = [d[0] * k, d[1] * k, d[2] * k],
          beside = dot3(cross3(normal, along), p),
          name = lineName(along, beside);
        let run = runs.get(name);
        if (!run) runs.set(name, (run = { origin: p, along, ends: [] }));
        const t = (r: ModelPoint) => dot3(minus3(r, run.origin), run.along);
        // Run forwards it counts up between its ends, run backwards down.
        run.ends.push({ t: t(p), by: 1, p }, { t: t(q), by: -1, p: q });
      });
  return runs;
}

/** Stretches of a line that are run along one way only. */
function uncovered({ ends }: Run): [ModelPoint, ModelPoint][] {
  const sorted = [...ends].sort((a, b) => a.t - b.t),
    out: [ModelPoint, ModelPoint][] = [];
  // Ways forwards and back count against one another between two places.
  let sum = 0;
  sorted.forEach((end, i) => {
    const before = sorted[i - 1];
    if (sum !== 0 && before && end.t - before.t > GRID * 10) out.push([before.p, end.p]);
    sum += end.by;
  });
  return joined(out);
}

/** Stretches that go on from one another as one. */
function joined(stretches: readonly [ModelPoint, ModelPoint][]): [ModelPoint, ModelPoint][] {
  const out: [ModelPoint, ModelPoint][] = [];
  for (const [p, q] of stretches) {
    const last = out.at(-1);
    if (last && nameOf(last[1]) === nameOf(p)) last[1] = q;
    else out.push([p, q]);
  }
  return out;
}

/** Volume that a surface encloses, by the divergence theorem: cubic millimetres. */
export function enclosedBy({ triangles: t }: Mesh): number {
  let six = 0;
  const [ox, oy, oz] = t;
  for (let i = 0; i < t.length; i += 9) {
    const [ax, ay, az] = [t[i] - ox, t[i + 1] - oy, t[i + 2] - oz],
      [bx, by, bz] = [t[i + 3] - ox, t[i + 4] - oy, t[i + 5] - oz],
      [cx, cy, cz] = [t[i + 6] - ox, t[i + 7] - oy, t[i + 8] - oz];
    six += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return six / 6;
}
