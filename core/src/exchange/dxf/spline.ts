import type { Point } from '../../geometry/index.ts';
import { Verb } from '../../linework/page-objects.ts';
import { number, numbers, type DxfRecord } from './records.ts';

/** Pieces per span of the knots. */
const PIECES = 6;
const MOST_PIECES = 5000;
/** Degrees beyond this are no drawing's. */
const HIGHEST_DEGREE = 25;

/** A SPLINE as Béziers through points of the curve with its own tangents; by its fit points where it has no control points. */
export function splinePath(r: DxfRecord): { verbs: number[]; points: Point[] } {
  const degree = number(r, 71, 3),
    knots = numbers(r, 40),
    weights = numbers(r, 41);
  const control = pairsOf(r, 10),
    fit = pairsOf(r, 11);
  const closed = (number(r, 70) & 1) !== 0;
  if (
    !Number.isInteger(degree) ||
    degree < 1 ||
    degree > HIGHEST_DEGREE ||
    control.length <= degree ||
    knots.length < control.length + degree + 1
  ) {
    return throughPoints(fit.length > 1 ? fit : control, closed);
  }
  const at = (t: number) => deBoor(t, degree, knots, control, weights);
  const first = knots[degree],
    last = knots[control.length];
  const spans = [...new Set(knots.slice(degree, control.length + 1))];
  const pieces = Math.min(PIECES, Math.max(1, Math.floor(MOST_PIECES / Math.max(1, spans.length - 1))));
  const points: Point[] = [at(first)];
  const verbs: number[] = [Verb.move];
  const tiny = (last - first) * 1e-6;
  const slope = (t: number): Point => {
    const a = Math.max(first, t - tiny),
      b = Math.min(last, t + tiny);
    const p = at(a),
      q = at(b);
    return [(q[0] - p[0]) / (b - a), (q[1] - p[1]) / (b - a)];
  };
  for (let s = 0; s + 1 < spans.length; s++) {
    for (let k = 0; k < pieces; k++) {
      const a = spans[s] + ((spans[s + 1] - spans[s]) * k) / pieces,
        b = spans[s] + ((spans[s + 1] - spans[s]) * (k + 1)) / pieces;
      const p = at(a),
        q = at(b),
        u = slope(a + tiny),
        v = slope(b - tiny),
        third = (b - a) / 3;
      points.push([p[0] + u[0] * third, p[1] + u[1] * third], [q[0] - v[0] * third, q[1] - v[1] * third], q);
      verbs.push(Verb.curve);
    }
  }
  return { verbs, points };
}

/** A smooth curve through points, each with the direction from its one neighbour to the other (Catmull-Rom). */
function throughPoints(given: readonly Point[], closed: boolean): { verbs: number[]; points: Point[] } {
  if (given.length < 3)
    return { verbs: given.map((_, i) => (i === 0 ? Verb.move : Verb.line)), points: [...given] };
  const n = given.length;
  const at = (i: number): Point => (closed ? given[(i + n) % n] : given[Math.max(0, Math.min(n - 1, i))]);
  const points: Point[] = [given[0]],
    verbs: number[] = [Verb.move];
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    points.push(
      [b[0] + (c[0] - a[0]) / 6, b[1] + (c[1] - a[1]) / 6],
      [c[0] - (d[0] - b[0]) / 6, c[1] - (d[1] - b[1]) / 6],
      c,
    );
    verbs.push(Verb.curve);
  }
  return { verbs, points };
}

function pairsOf(r: DxfRecord, code: number): Point[] {
  const xs = numbers(r, code),
    ys = numbers(r, code + 10);
  return xs.slice(0, ys.length).map((x, i): Point => [x, ys[i]]);
}

/** A point of a rational B-spline (de Boor's algorithm in homogeneous coordinates). */
function deBoor(
  t: number,
  degree: number,
  knots: readonly number[],
  control: readonly Point[],
  weights: readonly number[],
): Point {
  // The last span that begins at or before t, by halving.
  let span = degree,
    beyond = control.length;
  while (beyond - span > 1) {
    const middle = (span + beyond) >> 1;
    if (knots[middle] <= t) span = middle;
    else beyond = middle;
  }
  const d = Array.from({ length: degree + 1 }, (_, j) => {
    const i = span - degree + j,
      w = weights[i] ?? 1;
    return [control[i][0] * w, control[i][1] * w, w];
  });
  for (let level = 1; level <= degree; level++) {
    for (let j = degree; j >= level; j--) {
      const i = span - degree + j;
      const width = knots[i + degree - level + 1] - knots[i];
      const share = width === 0 ? 0 : (t - knots[i]) / width;
      d[j] = d[j].map((v, axis) => (1 - share) * d[j - 1][axis] + share * v);
    }
  }
  return [d[degree][0] / d[degree][2], d[degree][1] / d[degree][2]];
}
