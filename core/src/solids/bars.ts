import earcut from 'earcut';
import { dot3, minus3, type ModelPoint } from '../geometry/index.ts';
import type { Bar } from '../kinds/index.ts';
import { cross3, type Frame } from '../geometry/index.ts';
import type { Mesh } from './mesh.ts';

const plus = (a: ModelPoint, b: ModelPoint): ModelPoint => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];

/** The surface of bars where their plane puts them in the model: two ends and their sides, with the edges that show. */
export function meshOfBars(bars: readonly Bar[], { origin, across, up }: Frame): Mesh {
  const out = cross3(across, up),
    world = ([x, y, z]: ModelPoint): ModelPoint => [
      origin[0] + x * across[0] + y * up[0] + z * out[0],
      origin[1] + x * across[1] + y * up[1] + z * out[1],
      origin[2] + x * across[2] + y * up[2] + z * out[2],
    ];
  const triangles: number[] = [],
    edges: number[] = [];
  for (const { start, way, far: cut, corners } of bars) {
    const near = start.map((ring) => ring.map(world)),
      far = (cut ?? start.map((ring) => ring.map((p) => plus(p, way)))).map((ring) => ring.map(world));
    addEnds(near, far, minus3(world(way), world([0, 0, 0])), triangles);
    near.forEach((ring, k) =>
      ring.forEach((p, i) => {
        const j = (i + 1) % ring.length,
          [q, r, s] = [ring[j], far[k][j], far[k][i]];
        triangles.push(...p, ...s, ...r, ...p, ...r, ...q);
        edges.push(...p, ...q, ...s, ...r);
        if (corners[k][i]) edges.push(...p, ...s);
      }),
    );
  }
  return { triangles: Float64Array.from(triangles), edges: Float64Array.from(edges) };
}

/** Both ends: the near one is seen against the way, the far one along it. */
function addEnds(near: ModelPoint[][], far: ModelPoint[][], way: ModelPoint, out: number[]): void {
  const [a, b] = near[0],
    // Its ends may be cut at an angle: they are parted as they are seen along it.
    edge = minus3(b, a),
    off = dot3(edge, way) / dot3(way, way),
    flatEdge = minus3(edge, [way[0] * off, way[1] * off, way[2] * off]),
    length = Math.hypot(...flatEdge),
    u = flatEdge.map((v) => v / length) as unknown as ModelPoint,
    v = cross3(way, u),
    points = near.flat(),
    ends = far.flat();
  const flat = points.flatMap((p) => [dot3(minus3(p, a), u), dot3(minus3(p, a), v)]),
    holes: number[] = [];
  let count = 0;
  for (const ring of near.slice(0, -1)) holes.push((count += ring.length));
  const found = earcut(flat, holes);
  for (let i = 0; i < found.length; i += 3) {
    const [p, q, r] = [found[i], found[i + 1], found[i + 2]],
      turn =
        (flat[2 * q] - flat[2 * p]) * (flat[2 * r + 1] - flat[2 * p + 1]) -
        (flat[2 * q + 1] - flat[2 * p + 1]) * (flat[2 * r] - flat[2 * p]),
      [first, second] = turn > 0 ? [q, r] : [r, q];
    // Counter-clockwise about the way: so the far end is seen from outside, and the near one the other way round.
    out.push(...ends[p], ...ends[first], ...ends[second]);
    out.push(...points[p], ...points[second], ...points[first]);
  }
}
