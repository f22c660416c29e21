import { normalAngle, TAU } from '../geometry/index.ts';
import type { Taken } from './collector.ts';

/** A circle drawn in pieces has no more of them than this. */
const MOST_ARCS = 16;
/** What rounded ends by one step move: ends of arcs by so many steps, centres and radii of a quarter of a turn by so many. */
const ENDS = 2,
  CENTRES = 20;
/** Points of the arcs lie this near to the circle that is made of them, in steps: an oval of arcs is none. */
const ROUND = 3;
/** Without rounding, ends and centres miss by no more than this, sheet points. */
const LEAST = 0.012;
/** A full turn, by the sum of its arcs, misses by no more than this, radians. */
const TURN_MISSES = 0.15;

/**
 * Circles that were drawn as several arcs, each by itself and with a centre of its own where the file rounds: arcs of one pen that lie round
 * about one centre, meet end on end and go once round. They become circles; all other arcs stay. `rounding`: the file's step, sheet points.
 */
export function circlesOfArcs(
  arcs: Taken,
  circles: Taken,
  rounding: number,
): { arcs: Taken; circles: Taken } {
  const n = arcs.geometry.length / 5,
    g = arcs.geometry,
    slack = Math.max(LEAST, CENTRES * rounding),
    ends = Math.max(LEAST, ENDS * rounding);
  if (n < 2) return { arcs, circles };
  const cell = (v: number) => Math.floor(v / (4 * slack)),
    key = (x: number, y: number) => `${x},${y}`;
  const byCell = new Map<string, number[]>();
  for (let i = 0; i < n; i++) {
    const k = key(cell(g[5 * i]), cell(g[5 * i + 1])),
      list = byCell.get(k);
    if (list) list.push(i);
    else byCell.set(k, [i]);
  }
  const gone = new Uint8Array(n),
    found: { cx: number; cy: number; r: number; from: number }[] = [];
  for (let i = 0; i < n; i++) {
    if (gone[i]) continue;
    const around: number[] = [],
      x = cell(g[5 * i]),
      y = cell(g[5 * i + 1]);
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++) {
        for (const j of byCell.get(key(x + dx, y + dy)) ?? []) {
          const near =
            Math.hypot(g[5 * j] - g[5 * i], g[5 * j + 1] - g[5 * i + 1]) <= slack &&
            Math.abs(g[5 * j + 2] - g[5 * i + 2]) <= slack;
          if (
            !gone[j] &&
            near &&
            arcs.style[2 * j] === arcs.style[2 * i] &&
            arcs.style[2 * j + 1] === arcs.style[2 * i + 1]
          )
            around.push(j);
        }
      }
    const ring = around.length >= 2 && around.length <= MOST_ARCS ? onceRound(g, around, ends) : null;
    if (!ring) continue;
    const points = ring.flatMap((j) =>
        [0, 0.5, 1].map((t) => arcPoint(g, j, g[5 * j + 3] + t * (g[5 * j + 4] - g[5 * j + 3]))),
      ),
      circle = circleAmong(points);
    if (
      points.some(
        ([px, py]) =>
          Math.abs(Math.hypot(px - circle.cx, py - circle.cy) - circle.r) > Math.max(LEAST, ROUND * rounding),
      )
    )
      continue;
    for (const j of ring) gone[j] = 1;
    found.push({ ...circle, from: ring[0] });
  }
  if (found.length === 0) return { arcs, circles };
  const kept = Array.from({ length: n }, (_, i) => i).filter((i) => !gone[i]),
    replaced = n - kept.length;
  return {
    arcs: {
      geometry: picked(g, 5, kept),
      style: picked(arcs.style, 2, kept),
      object: picked(arcs.object, 1, kept),
      drawn: Math.max(0, arcs.drawn - replaced),
    },
    circles: {
      geometry: Float64Array.from([...circles.geometry, ...found.flatMap((c) => [c.cx, c.cy, c.r])]),
      style: Int32Array.from([
        ...circles.style,
        ...found.flatMap((c) => [arcs.style[2 * c.from], arcs.style[2 * c.from + 1]]),
      ]),
      object: Int32Array.from([...circles.object, ...found.map((c) => arcs.object[c.from])]),
      drawn: circles.drawn + found.length,
    },
  };
}

const arcPoint = (g: Float64Array, j: number, angle: number): [number, number] => [
  g[5 * j] + g[5 * j + 2] * Math.cos(angle),
  g[5 * j + 1] + g[5 * j + 2] * Math.sin(angle),
];

/** The circle among points by least squares, algebraically (x² + y² = 2ax + 2by + c, about their middle). */
function circleAmong(points: readonly [number, number][]): { cx: number; cy: number; r: number } {
  const n = points.length,
    mx = points.reduce((s, p) => s + p[0], 0) / n,
    my = points.reduce((s, p) => s + p[1], 0) / n;
  let xx = 0,
    xy = 0,
    yy = 0,
    xz = 0,
    yz = 0,
    z = 0;
  for (const [px, py] of points) {
    const x = px - mx,
      y = py - my,
      q = x * x + y * y;
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * q;
    yz += y * q;
    z += q;
  }
  const det = 2 * (xx * yy - xy * xy),
    a = (xz * yy - yz * xy) / det,
    b = (yz * xx - xz * xy) / det;
  return { cx: mx + a, cy: my + b, r: Math.sqrt(z / n + a * a + b * b) };
}

/** The arcs in the order in which they go once round, each ending where the next begins; null where they do not. */
function onceRound(g: Float64Array, around: readonly number[], ends: number): number[] | null {
  const sweep = around.reduce((sum, j) => sum + g[5 * j + 4] - g[5 * j + 3], 0);
  if (Math.abs(sweep - TAU) > TURN_MISSES) return null;
  const ordered = [...around].sort((a, b) => normalAngle(g[5 * a + 3]) - normalAngle(g[5 * b + 3]));
  return ordered.every((j, k) => {
    const next = ordered[(k + 1) % ordered.length],
      [px, py] = arcPoint(g, j, g[5 * j + 4]),
      [qx, qy] = arcPoint(g, next, g[5 * next + 3]);
    return Math.hypot(px - qx, py - qy) <= ends;
  })
    ? ordered
    : null;
}

function picked<T extends Float64Array | Int32Array>(source: T, stride: number, rows: readonly number[]): T {
  const out = new (source.constructor as new (n: number) => T)(rows.length * stride);
  rows.forEach((row, i) => {
    for (let k = 0; k < stride; k++) out[i * stride + k] = source[row * stride + k];
  });
  return out;
}
