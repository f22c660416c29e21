import type { ModelPoint } from '@calque/core/geometry';
import type { Loose } from '@calque/core/model';

/** Triangles that all look one way; `normal` is null for those that look any way. Nine figures each, the first so many of them not narrow. */
export interface Facing {
  normal: ModelPoint | null;
  triangles: Float32Array;
  wide: number;
}

/** Fewer triangles than this that look one way are not worth a mesh of their own, and more ways than this are not told apart. */
const LEAST = 40,
  MOST_WAYS = 24;
/** Directions nearer than this are one: none of what is built is turned by less. */
const ALIKE = 1e4;
/** What is narrower, millimetres, is a reveal or the top of a wall: it may be left out while a large building is turned. Of a frame it is a bolt, a fillet, the edge of a flange. */
const NARROW = 250,
  NARROW_OF_FRAMES = 60;

/** Below what width faces of a kind may be left out while a large building is turned. */
export const narrowOf = (type: Loose['type']): number =>
  type === 'member' || type === 'plate' || type === 'bolts' ? NARROW_OF_FRAMES : NARROW;

/**
 * Triangles by the way they look. Most of a building looks a few ways only, and what looks away from the eye need not even be placed: half of
 * it, in one question for each way. What looks one way is lit alike, so that it takes no lights either.
 */
export function byFacing(triangles: Float32Array, narrowBelow = NARROW): Facing[] {
  const count = triangles.length / 9,
    wayOf = new Int32Array(count),
    ways = new Map<string, number>(),
    isNarrow = new Uint8Array(count),
    found: { normal: ModelPoint; count: number }[] = [];
  for (let i = 0; i < count; i++) {
    const { normal, height } = shapeOf(triangles, 9 * i),
      name = normal.map((v) => Math.round(v * ALIKE)).join(' ');
    let way = ways.get(name);
    if (way === undefined) {
      ways.set(name, (way = found.length));
      found.push({ normal, count: 0 });
    }
    found[way].count++;
    wayOf[i] = way;
    isNarrow[i] = height < narrowBelow ? 1 : 0;
  }
  const own = found
    .map((f, way) => ({ ...f, way }))
    .filter((f) => f.count >= LEAST)
    .sort((a, b) => b.count - a.count)
    .slice(0, MOST_WAYS);
  const rest = count - own.reduce((n, f) => n + f.count, 0),
    made = [
      ...own.map((f): Facing => ({
        normal: f.normal,
        triangles: new Float32Array(9 * f.count),
        wide: 0,
      })),
      ...(rest > 0 ? [{ normal: null, triangles: new Float32Array(9 * rest), wide: 0 }] : []),
    ],
    places = new Int32Array(found.length).fill(own.length),
    at = made.map(() => 0);
  own.forEach((f, i) => (places[f.way] = i));
  for (const narrow of [0, 1]) {
    for (let i = 0; i < count; i++) {
      if (isNarrow[i] !== narrow) continue;
      const k = places[wayOf[i]];
      made[k].triangles.set(triangles.subarray(9 * i, 9 * i + 9), at[k]);
      at[k] += 9;
    }
    if (narrow === 0) made.forEach((m, k) => (m.wide = at[k] / 9));
  }
  return made;
}

/** The way a triangle looks, nothing for one without area; and how high it is over its longest side. */
function shapeOf(t: Float32Array, i: number): { normal: ModelPoint; height: number } {
  const [ax, ay, az] = [t[i + 3] - t[i], t[i + 4] - t[i + 1], t[i + 5] - t[i + 2]],
    [bx, by, bz] = [t[i + 6] - t[i], t[i + 7] - t[i + 1], t[i + 8] - t[i + 2]],
    n: ModelPoint = [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx],
    twice = Math.hypot(...n),
    longest = Math.max(Math.hypot(ax, ay, az), Math.hypot(bx, by, bz), Math.hypot(bx - ax, by - ay, bz - az));
  return twice > 0
    ? { normal: [n[0] / twice, n[1] / twice, n[2] / twice], height: twice / longest }
    : { normal: [0, 0, 0], height: 0 };
}
