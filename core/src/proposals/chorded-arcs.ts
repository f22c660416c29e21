import { circleThrough, type Arc } from '../geometry/index.ts';

/** A straight piece of what may be a chorded arc: two ends, any unit. */
export type Chord = readonly [number, number, number, number];

/** An arc of chords has so many at least; from one to the next it turns between these, radians, alike within a share; chords are as long as one another within another. */
const LEAST_CHORDS = 4,
  LEAST_TURN = 0.03,
  MOST_TURN = 0.45,
  TURN_ALIKE = 0.25,
  LONG_ALIKE = 0.12;
/** Ends are one within this share of a chord. */
const ONE = 0.03;
/** Where more ends meet there is a fan, no arc. */
const MOST_AT_END = 24;

/** Arcs that are drawn as chords end on end, as files have them whose curves were taken apart. */
export function chordedArcs(chords: readonly Chord[]): Arc[] {
  if (chords.length < LEAST_CHORDS) return [];
  const cell = Math.max(1e-9, 0.5 * Math.min(...chords.map(lengthOf))),
    ends = new Map<string, [number, 0 | 1][]>(),
    key = (x: number, y: number) => `${Math.round(x / cell)} ${Math.round(y / cell)}`;
  chords.forEach((c, i) => {
    for (const k of [0, 1] as const) {
      const at = key(c[2 * k], c[2 * k + 1]),
        row = ends.get(at);
      if (!row) ends.set(at, [[i, k]]);
      else if (row.length < MOST_AT_END) row.push([i, k]);
    }
  });
  /** The chord that goes on from an end of one, turned so that it begins there; null where there is none, or the turn is no arc's. */
  const next = (i: number, from: readonly [number, number], way: readonly [number, number]) => {
    const [cx, cy] = [Math.round(from[0] / cell), Math.round(from[1] / cell)];
    let best: { i: number; to: [number, number]; turn: number } | null = null;
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const [j, k] of ends.get(`${cx + dx} ${cy + dy}`) ?? []) {
          const c = chords[j],
            length = lengthOf(c);
          if (j === i || Math.abs(length - lengthOf(chords[i])) > LONG_ALIKE * length) continue;
          if (Math.hypot(c[2 * k] - from[0], c[2 * k + 1] - from[1]) > ONE * length) continue;
          const to: [number, number] = [c[2 - 2 * k], c[3 - 2 * k]],
            turn = turnBetween(way, [to[0] - from[0], to[1] - from[1]]);
          if (Math.abs(turn) < LEAST_TURN || Math.abs(turn) > MOST_TURN) continue;
          if (!best || Math.abs(turn) < Math.abs(best.turn)) best = { i: j, to, turn };
        }
    return best;
  };
  const used = new Set<number>(),
    out: Arc[] = [];
  chords.forEach((c, i) => {
    if (used.has(i)) return;
    const grown = (begin: [number, number], end: [number, number]) => {
      const points: [number, number][] = [],
        members: number[] = [];
      let at = i,
        p = begin,
        q = end,
        turned: number | null = null;
      for (;;) {
        const found = next(at, q, [q[0] - p[0], q[1] - p[1]]);
        if (!found || used.has(found.i) || members.includes(found.i)) break;
        if (turned !== null && Math.abs(found.turn - turned) > TURN_ALIKE * Math.abs(turned)) break;
        turned = found.turn;
        members.push(found.i);
        points.push(found.to);
        [at, p, q] = [found.i, q, found.to];
      }
      return { points, members, turned };
    };
    const [a, b]: [number, number][] = [
        [c[0], c[1]],
        [c[2], c[3]],
      ],
      ahead = grown(a, b),
      back = grown(b, a);
    if (ahead.turned !== null && back.turned !== null && ahead.turned * back.turned > 0) return;
    const points = [...back.points.reverse(), a, b, ...ahead.points];
    if (points.length - 1 < LEAST_CHORDS) return;
    const arc = arcThrough(points);
    if (!arc) return;
    for (const j of [i, ...ahead.members, ...back.members]) used.add(j);
    out.push(arc);
  });
  return out;
}

const lengthOf = ([x0, y0, x1, y1]: Chord): number => Math.hypot(x1 - x0, y1 - y0);
const turnBetween = (u: readonly [number, number], v: readonly [number, number]): number =>
  Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1]);

/** The arc through points in a row: through the first, the middle and the last; null where the others lie off it. */
function arcThrough(points: readonly (readonly [number, number])[]): Arc | null {
  const [p, q, r] = [points[0], points[points.length >> 1], points[points.length - 1]],
    circle = circleThrough(p, q, r);
  if (!circle) return null;
  const { cx, cy, r: radius } = circle;
  if (points.some((s) => Math.abs(Math.hypot(s[0] - cx, s[1] - cy) - radius) > 0.02 * radius)) return null;
  const angle = (s: readonly [number, number]) => Math.atan2(s[1] - cy, s[0] - cx),
    isLeft = (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]) > 0,
    [from, to] = isLeft ? [angle(p), angle(r)] : [angle(r), angle(p)];
  return { cx, cy, r: radius, start: from, end: to > from ? to : to + 2 * Math.PI };
}
